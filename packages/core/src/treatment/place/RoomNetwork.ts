import { KernelMemory, kernels, type Address } from '../../kernels/kernels.js'
import { ROOM_BANDS, reflectionsOf, type Reflection, type RoomSpec } from '../rooms.js'
import { dyingFilter, dyingOf } from './dying.js'

/** Samples a second in a room. */
export const ROOM_RATE = 12_000

const LINES = 8
/** Samples that come at once at most. */
const MOST = 512
/** Reflections that each ear hears by themselves: the loudest. */
const ECHOES = 8
/** A line is so long, in ways from wall to wall. */
const SHORTEST = 0.7
const LONGEST = 1.9
/** Seconds from wall to wall at most: what is further apart stands alone, as the reflections do. */
const LONGEST_WAY = 0.06
/** All lines together, in decay times: with less their tones could be told from each other. */
const TOGETHER = 0.15
/** What smears a sound before it goes round: ways from wall to wall, at most so many seconds, and how much goes through anew. */
const SMEARS = [0.13, 0.23, 0.41] as const
const LONGEST_SMEAR = 0.012
const SMEARED = 0.6
const SPEED = 343
const WORD = 4
/** Bytes between the lines: what lies a power of two apart shares a place in the processor's cache. */
const APART = 80

interface Smear {
  readonly length: number
  readonly held: KernelMemory
}

/** Reflections of one ear as {@link RoomNetwork} adds them. */
interface Echoes {
  readonly memory: KernelMemory
  readonly count: number
}

/**
 * A room as a network of delays that feed each other through a matrix that loses nothing, each with the losses of its length
 * (J.-M. Jot and A. Chaigne, AES 90th convention, 1991; from memory), with the first reflections of its box before. A hall costs
 * what a helmet does.
 */
export class RoomNetwork {
  private readonly setup = new KernelMemory(5 * LINES * WORD)
  private readonly ring: KernelMemory
  private readonly plane: number
  private readonly mask: number
  private readonly smears: readonly Smear[]
  private readonly smeared = new KernelMemory(MOST * WORD)
  private readonly heard: KernelMemory
  private readonly heardMask: number
  private readonly echoes: readonly Echoes[]
  /** Nothing goes round before it has come from the nearest wall. */
  private readonly entry: KernelMemory
  private readonly level: number
  private now = 0

  /**
   * @param size - Of 1: it is made so many times as large, and its sound lasts as much longer.
   * @param late - Seconds by which its sound comes later anyway.
   */
  constructor(spec: RoomSpec, size: number, late: number) {
    const [w, d, h] = spec.size.map((metres) => metres * size) as [number, number, number]
    const decays = spec.decay.map((seconds) => seconds * size)
    const way = Math.min(LONGEST_WAY, (4 * w * d * h) / (2 * (w * d + w * h + d * h)) / SPEED)
    const lengths = lengthsOf(way, decays)
    this.mask = powerAbove(Math.max(...lengths)) - 1
    this.plane = (this.mask + 1) * WORD + APART
    this.ring = new KernelMemory(LINES * this.plane)
    this.setup.setIntegers(lengths)
    const dying = dyingOf(decays, ROOM_BANDS)
    const each = lengths.map((length) => dyingFilter(dying, length / ROOM_RATE, ROOM_RATE))
    for (const row of [0, 1, 2])
      this.setup.setFloats(
        each.map((filter) => filter[row] as number),
        (1 + row) * LINES * WORD,
      )
    this.smears = SMEARS.map((part, index) => {
      const seconds = Math.min(part * way, (LONGEST_SMEAR * part) / SMEARS[2])
      const length = Math.max(index + 1, Math.round(seconds * ROOM_RATE))
      return { length, held: new KernelMemory(length * WORD) }
    })
    const sides = ([0, 1] as const).map((side) => loudest(reflectionsOf({ ...spec, size: [w, d, h] }, side)))
    const all = sides.flat().map((reflection) => reflection.late)
    const [nearest, last] = [Math.min(...all), Math.max(...all)]
    const first = Math.min(late, nearest)
    this.heardMask = powerAbove(Math.ceil(last * ROOM_RATE) + MOST) - 1
    this.heard = new KernelMemory((this.heardMask + 4) * WORD)
    this.echoes = sides.map((side) => echoesOf(side, first, 0.5 * spec.early))
    this.entry = echoesOf([{ late: nearest, gain: 1 }], first, 1).memory
    const together = lengths.reduce((a, b) => a + b, 0)
    this.level = levelOf(together, decays, 0.5 * (1 - spec.early))
  }

  /** Forgets what sounds in it. */
  reset(): void {
    for (const memory of [this.ring, this.heard, ...this.smears.map(({ held }) => held)]) memory.clear()
    this.setup.setFloats(new Float32Array(LINES), 4 * LINES * WORD)
    this.now = 0
  }

  /** Takes `count` samples, at most 512, and writes what each ear hears; they may lie where one of those shall. */
  process(from: Address, left: Address, right: Address, count: number): void {
    const { smeared, heard, heardMask, now } = this
    const run = kernels()
    run.remember(from, count, heard.at, heardMask, now)
    run.clear(smeared.at, count * WORD)
    run.addEchoes(smeared.at, count, heard.at, heardMask, now, this.entry.at, 1)
    for (const { length, held } of this.smears)
      run.smear(smeared.at, count, held.at, length, now % length, SMEARED)
    const { ring, plane, mask, setup, level } = this
    const into = 1 / Math.sqrt(LINES)
    run.goRound(smeared.at, left, right, count, ring.at, plane, mask, now, setup.at, into, level)
    for (let ear = 0; ear < 2; ear++) {
      const { memory, count: many } = this.echoes[ear] as Echoes
      run.addEchoes(ear === 0 ? left : right, count, heard.at, heardMask, now, memory.at, many)
    }
    this.now = now + count
  }
}

const powerAbove = (length: number): number => 2 ** Math.ceil(Math.log2(length + 1))

const loudest = (reflections: readonly Reflection[]): Reflection[] =>
  [...reflections].sort((a, b) => b.gain - a.gain).slice(0, ECHOES)

/** @param first - Seconds that the first of them does not wait for @param power - Of all together */
function echoesOf(side: readonly Reflection[], first: number, power: number): Echoes {
  const gains = new Map<number, number>()
  for (const { late, gain } of side) {
    const at = Math.round((late - first) * ROOM_RATE)
    gains.set(at, (gains.get(at) ?? 0) + gain)
  }
  const sum = [...gains.values()].reduce((all, gain) => all + gain * gain, 0)
  const memory = new KernelMemory(2 * WORD * gains.size)
  ;[...gains].forEach(([late, gain], at) => {
    memory.setIntegers([late], 2 * WORD * at)
    memory.setFloats([gain * Math.sqrt(power / sum)], 2 * WORD * at + WORD)
  })
  return { memory, count: gains.size }
}

/** Lengths of the lines in samples: prime numbers, so that their echoes do not fall together. */
function lengthsOf(way: number, decays: readonly number[]): number[] {
  const parts = Array.from(
    { length: LINES },
    (_, line) => SHORTEST * (LONGEST / SHORTEST) ** (line / (LINES - 1)),
  )
  const sum = way * parts.reduce((a, b) => a + b, 0)
  const longer = Math.max(1, (TOGETHER * Math.max(...decays)) / sum)
  const out: number[] = []
  for (const part of parts)
    out.push(primeFrom(Math.max((out.at(-1) ?? 10) + 1, Math.round(part * way * longer * ROOM_RATE))))
  return out
}

function primeFrom(from: number): number {
  for (let n = from; ; n++) {
    let prime = n > 1
    for (let by = 2; by * by <= n && prime; by++) prime = n % by !== 0
    if (prime) return n
  }
}

/**
 * Level of the lines at which what goes round has a power, for each ear: what is in them falls by 60 dB in the decay time, and a part
 * of it, one over the length of all, comes out of each at every sample.
 */
function levelOf(together: number, decays: readonly number[], power: number): number {
  let [sum, width] = [0, 0]
  for (const [band, hz] of ROOM_BANDS.entries())
    if (hz < ROOM_RATE / 2) [sum, width] = [sum + hz * (decays[band] as number), width + hz]
  const samples = ((sum / width) * ROOM_RATE) / Math.log(1e6)
  return Math.sqrt((power * together) / (LINES * samples))
}
