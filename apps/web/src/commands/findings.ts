import type { Finding, SinceLine } from '@yodel/core'
import { viewActions } from '../document/viewSlice.js'
import { findingKey, openFindings } from '../session/findings.js'
import type { CommandContext } from './context.js'

/** Working findings off on the Sheet, one after the other. */
export function findingCommands({ transport, doc, select, dispatch, state, refuse }: CommandContext) {
  const show = (finding: Finding): void => {
    const key = findingKey(finding)
    const at = openFindings(state()).findIndex((one) => findingKey(one) === key)
    dispatch(viewActions.workOff({ key, at }))
    const { cue, clip, track, note } = doc()
    const ids = finding.about.map((id) => note.get(id)?.cueId ?? id)
    select(ids.filter((id) => cue.has(id) || clip.has(id) || track.has(id)))
    if (finding.at) transport.goToFrame(finding.at.from)
  }
  return {
    /** Marks on the Sheet what has changed since a turnover, and goes to one line of it; round and round. */
    since: (name: string, lines: readonly SinceLine[], to: number) => {
      const at = (to + lines.length) % lines.length
      const line = lines[at]
      if (!line) return
      dispatch(viewActions.markSince({ name, lines, at }))
      const { cue, clip, track } = doc()
      select([line.id].filter((id) => cue.has(id) || clip.has(id) || track.has(id)))
      if (line.at) transport.goToFrame(line.at.from)
    },
    /** Takes those marks away. */
    leaveSince: () => dispatch(viewActions.markSince(null)),
    /** Goes to a finding's place and selects what it speaks of. */
    show,
    /** Goes to the finding after the one that is worked off, or before it; from the last to the first. */
    next: (direction: 1 | -1) => {
      const open = openFindings(state())
      const worked = state().view.workedOff
      const at = open.findIndex((finding) => findingKey(finding) === worked?.key)
      // One that is done is gone from the list, and what stood behind it has its place.
      const to = !worked
        ? direction > 0
          ? 0
          : -1
        : at >= 0
          ? at + direction
          : worked.at - (direction > 0 ? 0 : 1)
      const next = open.at(to % open.length)
      if (next) show(next)
      else refuse('There is nothing to work off; open Turnover to look the reel through.')
    },
    /** Puts the list away. */
    leave: () => dispatch(viewActions.workOff(null)),
  }
}
