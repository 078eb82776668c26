import { POOL_KEYS } from '@yodel/core'

/** The note of the first pad, as most pads come (C1, where middle C is C3). */
const FIRST_NOTE = 36

/** What a device says: a pad went down (velocity 1 to 127) or came up (0). */
export interface PadPress {
  readonly key: number
  readonly velocity: number
}

/**
 * Reads a MIDI message: note on and note off of the ten notes from {@link FIRST_NOTE}, on any channel. A note on with
 * velocity 0 is a note off (MIDI 1.0, running status).
 *
 * @returns Null for anything else
 */
export function padOf(data: ArrayLike<number> | null): PadPress | null {
  const [status = 0, note = 0, velocity = 0] = Array.from(data ?? [])
  const kind = status & 0xf0
  const key = note - FIRST_NOTE
  if ((kind !== 0x80 && kind !== 0x90) || key < 0 || key >= POOL_KEYS) return null
  return { key, velocity: kind === 0x90 ? velocity : 0 }
}

/** Of Web MIDI what is needed here. */
export type MidiPort = Pick<MIDIInput, 'name' | 'onmidimessage'>
/** All devices, as the browser gives them. */
export interface MidiDevices {
  readonly inputs: { values(): Iterable<MidiPort> }
  onstatechange: MIDIAccess['onstatechange']
}

/** Listens to all devices, also to those that are plugged in later. @returns The way to end it */
export function listenToPads(
  devices: MidiDevices,
  onPad: (press: PadPress) => void,
  tell: (text: string) => void,
): () => void {
  const listen = (): void => {
    for (const input of devices.inputs.values())
      input.onmidimessage = ({ data }) => {
        const press = padOf(data)
        if (press) onPad(press)
      }
  }
  listen()
  devices.onstatechange = ({ port }) => {
    listen()
    if (port?.type === 'input' && port.state === 'disconnected')
      tell(`${port.name ?? 'The device'} is gone. The keys of the bottom row hit as before.`)
  }
  return () => {
    devices.onstatechange = null
    for (const input of devices.inputs.values()) input.onmidimessage = null
  }
}
