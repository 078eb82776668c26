import { editTrack, removeEmptyTracks, soloOnly } from '@yodel/core'
import { viewActions } from '../document/viewSlice.js'
import type { CommandContext } from './context.js'

/** Solo, and tracks that hold nothing. */
export function trackCommands({ doc, clips, track, edit, refuse, dispatch }: CommandContext) {
  return {
    solo: () => {
      const soloed = doc().track.get(clips()[0]?.trackId ?? '')
      if (!soloed) return refuse('Select a sound first; its track is what is soloed.')
      const { id, solo, name } = soloed
      const label = `${solo ? 'End solo of' : 'Solo'} ${name}`
      edit((now) => editTrack(now, { id, fields: { solo: !solo }, label }))
    },
    soloOnly: () => {
      const id = track()
      if (id === undefined) return refuse('Select a sound or a track first.')
      edit((now) => soloOnly(now, { id }))
    },
    /** Gives the track room among the others, or takes it away again. */
    widen: () => {
      const id = track()
      if (id === undefined) return refuse('Select a sound or a track first.')
      dispatch(viewActions.widen(id))
    },
    removeEmpty: () => void edit(removeEmptyTracks),
  }
}
