import { copyRide, followSource } from '@yodel/core'
import { viewActions } from '../document/viewSlice.js'
import type { CommandContext } from './context.js'
import { storeCopiedRide } from './copied.js'

/** Commands of {@link ridingCommands}. */
export type RidingCommands = ReturnType<typeof ridingCommands>

/** Riding level and pan of tracks. */
export function ridingCommands(context: CommandContext) {
  const { doc, track, edit, select, refuse, dispatch, state, liveRide, newId } = context
  return {
    /** Draws the next kind of ride on the tracks: level, pan, none. */
    show: () => {
      const { ride } = state().view
      dispatch(viewActions.setRide(ride === null ? 'level' : ride === 'level' ? 'pan' : null))
    },
    /** Begins to have a track's pan follow clicks on the picture. */
    follow: () => {
      const trackId = track()
      if (trackId === undefined) {
        return refuse('Select a sound or a track first; then clicks on the picture say where its source is.')
      }
      dispatch(viewActions.setFollowing({ trackId, seen: [] }))
    },
    /** Ends following: the pan ride of the clicks is kept, or nothing. @returns Whether a track was following. */
    endFollowing: (kept: boolean): boolean => {
      const { following } = state().view
      if (!following) return false
      if (!kept || edit((now) => followSource(now, { ...following, newId }))) {
        dispatch(viewActions.setFollowing(null))
      }
      return true
    },
    /** Begins or ends riding a track by hand: the one given, or that of the selected sound. */
    live: (trackId = track(), what = state().view.ride ?? 'level') => {
      if (trackId === undefined) {
        return refuse('Select a sound or a track first; then it can be ridden while the reel plays.')
      }
      select([trackId])
      liveRide.toggle(trackId, what)
    },
    /** Ends riding by hand. @returns Whether a track was being ridden. */
    endLive: (): boolean => {
      const { riding } = state().view
      if (riding) liveRide.end()
      return riding !== null
    },
    to: (value: number) => liveRide.to(value),
    /** @returns Whether a track is being ridden. */
    by: (steps: number) => liveRide.by(steps),
    copy: (trackId: string, what: 'level' | 'pan') => {
      const copied = copyRide(doc(), trackId, what)
      if (copied) storeCopiedRide(copied)
    },
  }
}
