import { useEffect, useRef, useState } from 'react'
import { useCommands } from '../../commands/CommandsProvider.js'
import { viewActions } from '../../document/viewSlice.js'
import { useAppDispatch } from '../../document/store.js'
import { listenToPads } from '../../session/midiPads.js'

/** Pads and keys of MIDI devices: whether the browser has them, whether they are listened to, and the way to begin. */
export interface Midi {
  readonly state: 'none' | 'off' | 'on'
  readonly begin: () => void
}

/** Listens to MIDI devices once that is asked for, while the row is open. */
export function useMidi(): Midi {
  const { perform } = useCommands()
  const dispatch = useAppDispatch()
  const [devices, setDevices] = useState<MIDIAccess | null>(null)
  const held = useRef(new Map<number, () => void>())
  useEffect(() => {
    if (!devices) return
    const releases = held.current
    const end = listenToPads(
      devices,
      ({ key, velocity }) => {
        releases.get(key)?.()
        releases.delete(key)
        const release = velocity > 0 ? perform.hit(key, velocity) : undefined
        if (release) releases.set(key, release)
      },
      (text) => void dispatch(viewActions.notify({ tone: 'plain', text })),
    )
    return () => {
      end()
      for (const release of releases.values()) release()
      releases.clear()
    }
  }, [devices, perform, dispatch])
  if (!('requestMIDIAccess' in navigator)) return { state: 'none', begin: () => undefined }
  const begin = (): void => {
    navigator.requestMIDIAccess().then(setDevices, () => {
      const text = 'The browser was not allowed to use MIDI devices. Allow it for this page, then try again.'
      dispatch(viewActions.notify({ tone: 'problem', text }))
    })
  }
  return { state: devices ? 'on' : 'off', begin }
}
