import { cuesInOrder, nearestMark, nextMark, reelOf } from '@yodel/core'
import { viewActions } from '../document/viewSlice.js'
import { SPEEDS } from '../session/Transport.js'
import type { CommandContext } from './context.js'

const fastest = SPEEDS.length - 1

/** Commands of {@link movingCommands}. */
export type MovingCommands = ReturnType<typeof movingCommands>

/** Moving in time, and closer to it. */
export function movingCommands({
  transport,
  marks,
  doc,
  cue,
  clips,
  rate,
  select,
  refuse,
  dispatch,
  state,
}: CommandContext) {
  const speedAt = (): number => SPEEDS.findIndex((speed) => speed === transport.speed)
  const goToCue = (direction: 1 | -1): void => {
    const cues = cuesInOrder(doc())
    // From a sound one goes on from its cue: that is where one is after keeping it.
    const here = cue() ?? doc().cue.get(clips()[0]?.cueId ?? '')
    const at = here ? cues.findIndex(({ id }) => id === here.id) : -1
    const { frame } = transport
    const isHere = here && at >= 0 && (frame === here.in || frame === here.sync)
    const later = (): typeof here => cues.find((one) => one.in > frame)
    const earlier = (): typeof here => cues.findLast((one) => one.in < frame)
    const next = isHere ? cues[at + direction] : direction > 0 ? later() : earlier()
    if (!next) return
    select([next.id])
    transport.goToFrame(next.in)
  }
  const goToMark = (found: readonly number[], direction: 1 | -1, what: string): void => {
    const mark = nextMark(found, transport.frame, direction)
    if (mark === null) refuse(`There is no ${direction > 0 ? 'later' : 'earlier'} ${what}.`)
    else transport.goToFrame(mark)
  }
  return {
    toggle: () => transport.toggle(),
    stop: () => transport.stop(),
    first: () => transport.goToFrame(0),
    last: () => transport.goToFrame(reelOf(doc()).length - 1),
    /** Plays; rolling, goes faster. */
    faster: () => {
      if (transport.rolling) transport.setSpeed(SPEEDS[Math.min(fastest, speedAt() + 1)] ?? 1)
      else transport.play()
    },
    /** Goes slower; stopped, jumps back two seconds. */
    slower: () => {
      if (transport.rolling && speedAt() > 0) transport.setSpeed(SPEEDS[speedAt() - 1] ?? 1)
      else transport.goToFrame(transport.frame - 2 * rate().nominal)
    },
    /** Jumps back three seconds; a rolling reel rolls on from there. */
    back: () => transport.goToFrame(transport.frame - 3 * rate().nominal),
    stepSeconds: (by: number) => transport.step(by * rate().nominal),
    nextCue: () => goToCue(1),
    previousCue: () => goToCue(-1),
    /** Goes to the next onset of the guide, or the one before. */
    onset: (direction: 1 | -1) => goToMark(marks.current.onsets, direction, 'onset'),
    /** Goes to the next cut of the picture, or the one before. */
    cut: (direction: 1 | -1) => goToMark(marks.current.cuts, direction, 'cut'),
    /** Takes the gate to the nearest onset or cut within half a second. */
    snap: () => {
      const { onsets, cuts } = marks.current
      const mark = nearestMark([...onsets, ...cuts], transport.frame, Math.round(rate().nominal / 2))
      if (mark === null) refuse('No onset and no cut within half a second of the gate.')
      else transport.goToFrame(mark)
    },
    zoomBy: (factor: number) => void dispatch(viewActions.zoomTo(state().view.zoom * factor)),
  }
}
