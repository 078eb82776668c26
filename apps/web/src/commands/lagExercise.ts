import { FEWEST_HITS, lagOf, rateOf, sampleToFrame, SAMPLE_RATE, stretchToHit, type Lag } from '@yodel/core'
import { performActions, type Exercise } from '../document/performSlice.js'
import type { CommandContext } from './context.js'

/** Seconds that one hits for. */
const SECONDS = 10

/**
 * Ten seconds in which keys are hit where a step lands or the picture cuts, to tell how late a hand is. Nothing of it is a take.
 *
 * @param happenings - Samples of the reel at which something is to be hit
 */
export function lagExercise(
  { transport, state, dispatch, doc, refuse, tell }: CommandContext,
  happenings: () => number[],
) {
  const running = (): Extract<Exercise, { state: 'running' }> | null => {
    const { exercise } = state().perform
    return exercise?.state === 'running' ? exercise : null
  }
  const finish = (): void => {
    const exercise = running()
    if (!exercise) return
    const lag = lagOf(exercise.hits, happenings(), transport.speed)
    dispatch(performActions.setExercise({ state: 'done', lag }))
  }
  transport.watchState(() => {
    if (!transport.rolling) finish()
  })
  transport.subscribe((sample) => {
    const exercise = running()
    if (exercise && transport.rolling && sample >= exercise.to) transport.stop()
  })
  const take = (lag: number): void => {
    dispatch(performActions.setLag(lag))
    tell(
      lag < 0
        ? `Your hand is ${-lag} ms early; what you perform from now on is moved by that.`
        : `Your hand is ${lag} ms late; that is taken off what you perform from now on.`,
    )
  }
  return {
    /** Looks for the next stretch in which enough happens, and rolls it once, at the speed that is set. */
    begin: () => {
      const rolled = transport.speed
      const length = SECONDS * SAMPLE_RATE * rolled
      const stretch = stretchToHit(happenings(), { from: transport.sample, length, rolled })
      if (!stretch)
        return refuse(
          'Nowhere in this reel are there five steps or cuts within ten seconds. Perform something, and measure by your take.',
        )
      transport.stop()
      transport.setLoop(null)
      dispatch(performActions.setExercise({ state: 'running', ...stretch, hits: [] }))
      transport.goToFrame(sampleToFrame(Math.floor(stretch.from), rateOf(doc())))
      transport.play()
    },
    /** A key went down. @returns Whether it was for the exercise */
    takes: (at: number): boolean => {
      const exercise = running()
      if (exercise && transport.rolling)
        dispatch(performActions.setExercise({ ...exercise, hits: [...exercise.hits, at] }))
      return exercise !== null
    },
    /** Takes what was measured off what is performed from now on. @param known - Milliseconds that were taken off already */
    measured: (lag: Lag | null | undefined, known = 0) => {
      dispatch(performActions.setExercise(null))
      if (!lag) return refuse(`Hit at least ${FEWEST_HITS} times on steps or cuts, then measure again.`)
      take(Math.round(known + lag.ms))
    },
    /** Leaves the exercise and its outcome. */
    leave: () => {
      transport.stop()
      dispatch(performActions.setExercise(null))
    },
  }
}
