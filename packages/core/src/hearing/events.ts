import { SAMPLES_PER_MS } from '../time/units.js'
import type { SoundEvent } from '../contract/sounds.js'
import { OUTLINE_STEP } from './outline.js'

/** How a recording is split into events. */
export interface SplitSettings {
  /** Milliseconds of quiet that part two events, 20 to 2000; null to find it from the recording's own pauses. */
  readonly quiet: number | null
  /** Decibels by which a new attack has to rise out of the ringing of the one before, 4 to 30. */
  readonly rise: number
}

/** What fits steps, doors and bells alike. */
export const USUAL_SPLIT: SplitSettings = { quiet: null, rise: 9 }

/** Below its loudest moment by this, a recording counts as quiet; so does what lies within 6 dB of its own noise. */
const QUIET_DB = 42
const ABOVE_NOISE_DB = 6
/** A recording that never falls this far below its loudest moment is one event: a bed. */
const ALIVE_DB = 12
/** An attack begins where it stands this far below the highest moment of its event. */
const ATTACK = 0.1
/** Inside one ringing event a new attack is looked for only this long after the last. */
const APART_MS = 450
/** A new attack out of ringing is at most this much weaker than the strongest of its stretch. */
const EQUAL_DB = 12
/** What is weaker than the loudest event by this is no event of its own. */
const FAINT_DB = 30
/** Between two events it falls at least this far below the weaker of them. */
const VALLEY_DB = 12
/** The shortest quiet that can part events at all, and what parts them when there are too few pauses to compare. */
const SHORTEST_MS = 40
const LONE_MS = 250
/** Pauses within events and between them differ at least by this factor. */
const PAUSE_RATIO = 1.8
/** Kept before an attack, so that nothing of it is cut. */
const LEAD_MS = 10

const steps = (ms: number): number => Math.max(1, Math.round((ms * SAMPLES_PER_MS) / OUTLINE_STEP))
const toDb = (value: number): number => (value > 1e-6 ? 20 * Math.log10(value) : -120)

/**
 * Splits a recording into its separate events.
 * Quiet parts them; where one rings into the next, a sudden rise does. A bed (rain, a room) is one event from end to end.
 *
 * @param outline - Highest sample of every millisecond, as {@link OutlineCollector} gives it.
 * @param length - Samples at 48 kHz; no event reaches beyond.
 * @returns Events in the order of time, `[start, sync, end)` in samples, apart from each other; none for silence.
 */
export function findEvents(
  outline: Float32Array,
  length: number,
  settings: SplitSettings = USUAL_SPLIT,
): SoundEvent[] {
  const levels = Float32Array.from(outline, toDb)
  const loudest = levels.reduce((most, level) => Math.max(most, level), -120)
  if (loudest <= -90) return []
  const noise = noiseOf(levels)
  if (loudest - noise < ALIVE_DB) return [[0, 0, length]]
  const threshold = Math.max(loudest - QUIET_DB, noise + ABOVE_NOISE_DB)
  const pieces = joinShallow(levels, loudStretches(levels, threshold, steps(settings.quiet ?? SHORTEST_MS)))
  const stretches = settings.quiet === null ? joinNear(pieces) : pieces
  const parts = stretches.flatMap(([from, to]) => splitRinging(levels, from, to, threshold, settings.rise))
  const kept = parts.filter(([from, to]) => highest(levels, from, to) >= loudest - FAINT_DB)
  let before = 0
  return kept.map(([from, to]) => {
    const top = highest(outline, from, to)
    let attack = from
    while (attack < to - 1 && (outline[attack] as number) < top * ATTACK) attack++
    const start = Math.max(before, Math.min(attack, from) - steps(LEAD_MS))
    before = to
    return [start * OUTLINE_STEP, attack * OUTLINE_STEP, Math.min(length, to * OUTLINE_STEP)]
  })
}

/** The level that a tenth of the recording stays below; in windows of 20 ms, so that a wave's own zero crossings don't count. */
function noiseOf(levels: Float32Array): number {
  const window = steps(20)
  const highs: number[] = []
  for (let at = 0; at < levels.length; at += window)
    highs.push(highest(levels, at, Math.min(levels.length, at + window)))
  return highs.sort((a, b) => a - b)[Math.floor(highs.length * 0.1)] ?? -120
}

function highest(values: Float32Array, from: number, to: number): number {
  let most = -Infinity
  for (let i = from; i < to; i++) most = Math.max(most, values[i] as number)
  return most
}

/** Stretches above the threshold; shorter quiet than `quiet` steps does not part them. */
function loudStretches(levels: Float32Array, threshold: number, quiet: number): [number, number][] {
  const found: [number, number][] = []
  for (let i = 0; i < levels.length; i++) {
    if ((levels[i] as number) < threshold) continue
    const last = found.at(-1)
    if (last && i - last[1] < quiet) last[1] = i + 1
    else found.push([i, i + 1])
  }
  return found
}

/** Joins neighbours that no real valley parts: the ups and downs of one noise. */
function joinShallow(levels: Float32Array, stretches: readonly [number, number][]): [number, number][] {
  const joined: [number, number][] = []
  let top = -Infinity
  for (const [from, to] of stretches) {
    const here = highest(levels, from, to)
    const last = joined.at(-1)
    if (last && Math.min(top, here) - valleyBetween(levels, last[1], from) < VALLEY_DB) {
      last[1] = to
      top = Math.max(top, here)
    } else {
      joined.push([from, to])
      top = here
    }
  }
  return joined
}

function valleyBetween(levels: Float32Array, from: number, to: number): number {
  const window = steps(20)
  let lowest = Infinity
  for (let at = from; at === from || at + window <= to; at += window)
    lowest = Math.min(lowest, highest(levels, at, Math.min(to, at + window)))
  return lowest
}

/**
 * Joins what belongs to one event: heel and toe, catch and clank. Pauses within events are much shorter than those between them,
 * so the widest step in the sorted pauses tells the two apart.
 */
function joinNear(stretches: readonly [number, number][]): [number, number][] {
  const pauses = stretches.slice(1).map(([from], index) => from - (stretches[index] as [number, number])[1])
  const sorted = [...pauses].sort((a, b) => a - b)
  let least = pauses.length < 3 ? steps(LONE_MS) : 0
  let widest = PAUSE_RATIO
  for (let i = 1; i < sorted.length && pauses.length >= 3; i++) {
    const ratio = (sorted[i] as number) / (sorted[i - 1] as number)
    // Pauses of more than a second part events, however much longer others are.
    if (ratio < widest || (sorted[i - 1] as number) > steps(1000)) continue
    widest = ratio
    least = sorted[i] as number
  }
  const joined: [number, number][] = []
  for (const [from, to] of stretches) {
    const last = joined.at(-1)
    if (last && from - last[1] < least) last[1] = to
    else joined.push([from, to])
  }
  return joined
}

/** Parts a stretch where something is struck again while it still rings. */
function splitRinging(
  levels: Float32Array,
  from: number,
  to: number,
  threshold: number,
  rise: number,
): [number, number][] {
  const apart = steps(APART_MS)
  const strong = highest(levels, from, to) - EQUAL_DB
  const parts: [number, number][] = []
  let start = from
  for (let i = from + apart; i < to; i++) {
    if (i - start < apart || (levels[i] as number) < strong) continue
    // The ringing before: the highest of the 50 ms that end 10 ms ago, so that the attack itself is not in it.
    const ringing = highest(levels, Math.max(from, i - steps(60)), i - steps(10))
    // After quiet nothing rings any more: how long a quiet parts events has been decided before.
    if (ringing < threshold || (levels[i] as number) - ringing < rise) continue
    let foot = i
    while (foot > start + 1 && (levels[foot - 1] as number) > ringing + 2) foot--
    parts.push([start, foot])
    start = foot
  }
  parts.push([start, to])
  return parts
}
