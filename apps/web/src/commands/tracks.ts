import { editTrack, removeEmptyTracks, soloOnly } from '@yodel/core'
import type { CommandContext } from './context.js'

/** Solo, and tracks that hold nothing. */
export function trackCommands({ doc, clips, track, edit, refuse }: CommandContext) {
  return {
    solo: () => {
      const soloed = doc().track.get(clips()[0]?.trackId ?? '')
      if (!soloed) return refuse('Select a sound first; S solos its track.')
      const { id, solo, name } = soloed
      const label = `${solo ? 'End solo of' : 'Solo'} ${name}`
      edit((now) => editTrack(now, { id, fields: { solo: !solo }, label }))
    },
    soloOnly: () => {
      const id = track()
      if (id === undefined) return refuse('Select a sound or a track first.')
      edit((now) => soloOnly(now, { id }))
    },
    removeEmpty: () => void edit(removeEmptyTracks),
  }
}
