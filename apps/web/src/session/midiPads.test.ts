import { describe, expect, it } from 'vitest'
import { listenToPads, padOf, type MidiDevices, type MidiPort, type PadPress } from './midiPads.js'

describe('a MIDI message', () => {
  it.each([
    ['a pad that goes down', [0x90, 36, 100], { key: 0, velocity: 100 }],
    ['on any channel', [0x9f, 45, 1], { key: 9, velocity: 1 }],
    ['note off', [0x80, 40, 64], { key: 4, velocity: 0 }],
    ['note on without velocity, which is a note off', [0x90, 40, 0], { key: 4, velocity: 0 }],
    ['a note beyond the pads', [0x90, 46, 90], null],
    ['a note below them', [0x90, 35, 90], null],
    ['a controller', [0xb0, 36, 90], null],
    ['the clock', [0xf8], null],
    ['nothing', null, null],
  ])('is understood: %s', (_, data, press) => expect(padOf(data)).toEqual(press))
})

describe('devices', () => {
  const port = (name: string): MidiPort => ({ name, onmidimessage: null })
  const send = (to: MidiPort, data: number[]): void =>
    to.onmidimessage?.call(to as MIDIInput, { data: Uint8Array.from(data) } as MIDIMessageEvent)
  it('are all listened to, those as well that come later; one that goes is named', () => {
    const pads = port('Pads')
    const keys = port('Keys')
    const inputs = new Map([['1', pads]])
    const devices: MidiDevices = { inputs, onstatechange: null }
    const plug = (which: MidiPort, state: string): void => {
      const event = { port: { ...which, type: 'input', state } } as unknown as MIDIConnectionEvent
      devices.onstatechange?.call(devices as unknown as MIDIAccess, event)
    }
    const pressed: PadPress[] = []
    const told: string[] = []
    const end = listenToPads(
      devices,
      (press) => pressed.push(press),
      (text) => told.push(text),
    )
    send(pads, [0x90, 37, 80])
    inputs.set('2', keys)
    plug(keys, 'connected')
    send(keys, [0x91, 38, 20])
    plug(pads, 'disconnected')
    expect(pressed).toEqual([
      { key: 1, velocity: 80 },
      { key: 2, velocity: 20 },
    ])
    expect(told).toEqual(['Pads is gone. The keys of the bottom row hit as before.'])
    end()
    send(keys, [0x91, 38, 20])
    expect(pressed).toHaveLength(2)
  })
})
