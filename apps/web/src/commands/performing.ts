import {
  frames,
  frameToSample,
  hitOf,
  lagOf,
  Picker,
  pullHits,
  punchHits,
  rateOf,
  SAMPLE_RATE,
  shakeHits,
  shiftHits,
  stepHits,
  thinHits,
  velocityGain,
  type Hit,
  type Pool,
  type Take,
  type TakeCues,
} from '@yodel/core'
import { hitsOn, keepHits } from '../document/performed.js'
import { performActions, type PerformState } from '../document/performSlice.js'
import type { CommandContext } from './context.js'
import { lagExercise } from './lagExercise.js'

/** Samples of a millisecond. */
const PER_MS = SAMPLE_RATE / 1000
/** What a take is pulled onto. */
export type PullTo = 'onsets' | 'cuts' | 'cues'

/** Performing with pools: hitting, and everything that can be done to a take. */
export function performingCommands(context: CommandContext) {
  const { transport, hits: player, state, dispatch, doc, refuse, tell, edit, newId, marks } = context
  const perform = (): PerformState => state().perform
  const pickers = new Map<string, Picker>()
  const sampleOf = (frame: number): number => frameToSample(frames(frame), rateOf(doc()))
  const perFrame = (): number => sampleOf(100) / 100

  /** What was hit since the reel began to roll becomes a take, or goes into the chosen one. */
  const endTake = (): void => {
    const { current, takes, chosen, punch, lag } = perform()
    if (current.length === 0) return
    const rolled = transport.speed
    const end = sampleOf(transport.frameOnScreen)
    const isHeld = (id: string): boolean => perform().pools.some((pool) => pool.id === id && pool.held)
    // A key that is still down ends where the reel did.
    const ended = current.map((hit) =>
      hit.length === null && isHeld(hit.poolId) ? { ...hit, length: Math.max(0, end - hit.at) } : hit,
    )
    const fresh = shiftHits(ended, -Math.round(lag * PER_MS * rolled))
    const into = punch ? takes.find(({ id }) => id === chosen) : undefined
    const from = Math.min(...fresh.map(({ at }) => at))
    const to = Math.max(...fresh.map(({ at }) => at)) + 1
    const take: Take = into
      ? { ...into, hits: punchHits(into.hits, fresh, { from, to }) }
      : { id: newId(), hits: fresh, on: true, rolled }
    dispatch(performActions.endTake(take))
  }
  transport.watchState(() => {
    if (!transport.rolling) endTake()
  })

  const chosenTake = (): Take | undefined => perform().takes.find(({ id }) => id === perform().chosen)
  const change = (act: (hits: readonly Hit[]) => readonly Hit[]): void => {
    const take = chosenTake()
    if (!take) return refuse('Perform something first: with the row open, play, and press its keys.')
    const hits = act(take.hits)
    dispatch(
      performActions.setTakes(perform().takes.map((one) => (one.id === take.id ? { ...one, hits } : one))),
    )
  }
  const placesOf = (to: PullTo): number[] => {
    const { onsets, cuts } = marks.current
    const at = {
      onsets: [...onsets],
      cuts: [...cuts],
      cues: [...doc().cue.values()].map(({ sync }) => sync),
    }[to]
    return at.map(sampleOf)
  }
  const happenings = (): number[] => [...placesOf('onsets'), ...placesOf('cuts')]
  const exercise = lagExercise(context, happenings)
  const hitPool = (pool: Pool, velocity: number, isKept: boolean): (() => void) | undefined => {
    const picker = pickers.get(pool.id) ?? new Picker(Math.random)
    pickers.set(pool.id, picker)
    // Before anything else: what the editor sees at this moment is what is meant.
    const frame = transport.frameOnScreen
    const picked = picker.next(pool)
    const at = sampleOf(frame)
    const dry = picked && hitOf(pool, picked, at)
    if (!dry) return void refuse(`${pool.name} holds nothing that may be picked.`)
    const sound = perform().sounds[dry.soundId]
    if (perform().gone.includes(dry.soundId)) return void refuse(`The recording of ${dry.name} is gone.`)
    const gain = Math.round((dry.gain + velocityGain(velocity)) * 10) / 10
    const end = sound && player.play(dry.soundId, dry.part, sound.length, { gain, speed: dry.speed })
    if (!end) return void tell(`${dry.name} is not loaded yet.`)
    const isRolling = isKept && transport.rolling
    if (isRolling) dispatch(performActions.hit({ ...dry, gain }))
    return () => {
      if (!pool.held) return
      end()
      if (!isRolling || !transport.rolling) return
      const length = Math.max(0, sampleOf(transport.frameOnScreen) - at)
      dispatch(performActions.letGo({ at, poolId: pool.id, length }))
    }
  }

  return {
    /** Opens or closes the row. */
    toggle: () => void dispatch(performActions.toggle()),
    /**
     * Hits the pool on a key: it is heard at once, and remembered with the frame on screen while the reel rolls.
     *
     * @param velocity - 1 to 127
     * @returns What is to be done when the key is let go
     */
    hit: (key: number, velocity = 127): (() => void) | undefined => {
      const pool = perform().pools.find((one) => one.key === key)
      const isMeasured = exercise.takes(sampleOf(transport.frameOnScreen))
      return pool ? hitPool(pool, velocity, !isMeasured) : undefined
    },
    shift: (by: { frames?: number; tenths?: number }) => {
      const samples = Math.round(perFrame() * ((by.frames ?? 0) + (by.tenths ?? 0) / 10))
      change((hits) => shiftHits(hits, samples))
    },
    thin: (count: number) => change((hits) => thinHits(hits, Math.round(count * perFrame()))),
    pull: (to: PullTo, reach: number) =>
      change((hits) => pullHits(hits, placesOf(to), Math.round(reach * perFrame()))),
    soften: (db: number) => change((hits) => stepHits(hits, db)),
    shake: () => change((hits) => shakeHits(hits, perform().pools, Math.random)),
    /** Hears a take or not; what is not heard is not kept. */
    setOn: (id: string, on: boolean) =>
      void dispatch(
        performActions.setTakes(perform().takes.map((take) => (take.id === id ? { ...take, on } : take))),
      ),
    drop: (id: string) =>
      void dispatch(performActions.setTakes(perform().takes.filter((take) => take.id !== id))),
    beginExercise: exercise.begin,
    leaveExercise: exercise.leave,
    takeLag: exercise.measured,
    /**
     * Takes from the chosen take how late the hand is, against onsets and cuts; what it was thought to be is in the take already.
     * The take is moved by the rest, so that measuring it once more finds nothing.
     */
    measureLag: () => {
      const { hits = [], rolled = 1 } = chosenTake() ?? {}
      const places = hits.map(({ at }) => at)
      const lag = lagOf(places, happenings(), rolled)
      exercise.measured(lag, perform().lag)
      if (lag) change((now) => shiftHits(now, -Math.round(lag.ms * PER_MS * rolled)))
    },
    /** Lays all takes that are on, as one step. */
    keep: (cues: TakeCues, words: string) => {
      endTake()
      const hits = hitsOn(perform())
      if (hits.length === 0)
        return refuse('There is nothing to keep: perform something, or switch a take on.')
      const { sounds, gone } = perform()
      const missing = hits.filter(({ soundId }) => !(soundId in sounds))
      if (missing.some(({ soundId }) => !gone.includes(soundId)))
        return refuse(
          'The recordings of what was performed are still being looked for; try again in a moment.',
        )
      const names = [...new Set(missing.map(({ name }) => name))].join(', ')
      if (names)
        return refuse(`These recordings are gone, and can’t be laid: ${names}. Drop or shake their takes.`)
      if (!edit((now) => keepHits(now, hits, perform(), { cues, words, newId }))) return
      dispatch(performActions.setTakes(perform().takes.filter(({ on }) => !on)))
    },
  }
}
