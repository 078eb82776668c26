import type { CommandContext } from './context.js'
import type { DraftCommands } from './draft.js'
import type { MovingCommands } from './moving.js'
import type { RecordingCommands } from './recording.js'
import type { RidingCommands } from './riding.js'
import type { ShortlistCommands } from './shortlist.js'
import type { StackCommands } from './stacks.js'
import type { SpottingCommands } from './spotting.js'
import type { TryingCommands } from './trying.js'

/** Keys whose meaning depends on what one is doing: following the picture, riding, trying, or none of these. */
export function doingCommands(
  { transport, parts, select, selected }: CommandContext,
  groups: {
    readonly rides: RidingCommands
    readonly tries: TryingCommands
    readonly stacks: StackCommands
    readonly shortlist: ShortlistCommands
    readonly spot: SpottingCommands
    readonly draft: DraftCommands
    readonly move: MovingCommands
    readonly record: RecordingCommands
  },
) {
  const { rides, tries, stacks, draft, shortlist, spot, move, record } = groups
  return {
    /** Keeps what is tried or followed; otherwise lets the words of the cue be typed. */
    enter: () => {
      if (rides.endFollowing(true)) return
      if (draft.isWalking()) draft.keep()
      else if (stacks.isTrying()) stacks.keep()
      else if (tries.isTrying()) tries.keep()
      else spot.typeWords()
    },
    /** Leaves what one is doing; otherwise selects nothing; otherwise closes the strip of recording. */
    leave: () => {
      if (rides.endFollowing(false) || rides.endLive() || record.end()) return
      if (draft.isWalking()) draft.stop()
      else if (stacks.isTrying()) stacks.putBack()
      else if (tries.isTrying()) tries.putBack()
      else if (selected().length > 0) select([])
      else record.close()
    },
    /** The next cue; while walking through a draft, this one is left as it is. */
    nextCue: () => (draft.isWalking() ? draft.skip() : move.nextCue()),
    /** A frame on or back; while trying, the next candidate or the one before: of the variations of a stack, of the shortlist, if the tried one stands on it, or else of the results. */
    step: (by: 1 | -1) => {
      if (draft.isWalking()) void draft.beside(by)
      else if (stacks.isTrying()) stacks.step(by)
      else if (!tries.isTrying()) transport.step(by)
      else if (!shortlist.tryBeside(by)) parts.get('results')?.step(by)
    },
  }
}
