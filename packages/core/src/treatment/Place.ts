import { gainFromDb } from '../signal/levels.js'
import { SAMPLE_RATE } from '../time/units.js'
import type { Settings } from '../reel/inserts.js'
import { airSections } from './air.js'
import { runSection, runTwo, sectionOf, type Section } from './biquad.js'
import type { Bus, Processor } from './bus.js'
import { PLACE_SPECS, type PlaceSpec } from './places.js'
import { Reverb } from './Reverb.js'
import type { RoomPort } from './rooms.js'
import { bend, bendSlope } from './saturation.js'

/** Sections that a place can have in a row. */
const MOST_SECTIONS = 24
/** Samples in which what was heard falls to a third: speech has its gaps. */
const HOLD = 0.12 * SAMPLE_RATE
const FALL = Math.exp(-1 / HOLD)
/** -54 dBFS: what is softer leaves a device silent. */
const AWAKE = 10 ** (-54 / 20)
/** Seconds for which a device hisses on after its last sound, of a click, and of the burst when it closes. */
const ON = 0.7
const CLICK = 0.006
const BURST = 0.16
/** Hz at which moving air swells. */
const DRIFTS = [0.23, 0.61, 1.07] as const

const settingsAtFirst: Settings<'place'> = { place: 'telephone', amount: 0, distance: 0, broken: 0.5 }

/**
 * Puts a sound into a place or through a device. The amount slides what the place does, from nothing at all: at 0 every sample
 * stays as it is, to the bit.
 */
export class Place implements Processor<Settings<'place'>> {
  readonly latency = 0
  private settings = settingsAtFirst
  private spec: PlaceSpec = PLACE_SPECS.telephone
  private before: readonly Section[] = []
  private after: readonly Section[] = []
  private readonly memory = [0, 1, 2].map(() => new Float64Array(2 * MOST_SECTIONS)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ]
  private readonly reverb: Reverb
  private drive = 1
  private bias = 0
  private noise = 0
  private drift = 0
  private heard = 0
  /** Samples since it was last heard; the device is closed once it hisses no more. */
  private quiet = Infinity
  private sinceOpen = Infinity

  constructor(rooms: RoomPort) {
    this.reverb = new Reverb(rooms)
  }

  set(settings: Settings<'place'>): void {
    const { place, amount, distance, broken } = settings
    const other = place !== this.settings.place
    this.settings = settings
    const spec = PLACE_SPECS[place]
    this.spec = spec
    const slid = (open: number, at: number): number => open * (at / open) ** amount
    const low = passSections('highPass', slid(20, spec.low[0]), spec.low[1])
    const high = passSections('lowPass', slid(22_000, spec.high[0]), spec.high[1])
    const bells = spec.bells.map(([hz, db, q]) => sectionOf('bell', hz, db * amount, q))
    const air = airSections(distance * amount)
    // What is bent has lost what the device does not let in; what bending adds above is lost behind it.
    const bends = spec.drive > 0
    this.before = bends ? [...low, ...bells, ...high.slice(0, high.length >> 1)] : []
    this.after = bends ? [...high.slice(high.length >> 1), ...air] : [...low, ...bells, ...high, ...air]
    this.drive = gainFromDb(spec.drive * amount * 2 * broken)
    this.bias = spec.lopsided * amount
    this.noise = spec.noise === null ? 0 : gainFromDb(spec.noise + 24 * (broken - 0.5)) * amount
    this.drift = spec.drift * amount
    if (spec.room !== null)
      this.reverb.set({
        ...{ room: spec.room, preDelay: 0, dry: spec.dry * amount },
        wet: amount <= 0 ? -60 : Math.max(-60, spec.wet + 20 * Math.log10(amount)),
      })
    if (other) this.reset()
  }

  tail(): number {
    if (this.settings.amount <= 0) return 0
    return (
      Math.ceil((ON + BURST) * SAMPLE_RATE - HOLD * Math.log(AWAKE)) +
      2048 +
      (this.spec.room === null ? 0 : this.reverb.tail())
    )
  }

  reset(): void {
    for (const memory of this.memory) memory.fill(0)
    this.reverb.reset()
    this.heard = 0
    this.quiet = this.sinceOpen = Infinity
  }

  process(bus: Bus, count: number, at: number): void {
    if (this.settings.amount <= 0) return
    if (this.spec.mono) bus.sum(count)
    if (bus.hasMono) this.filter(this.before, bus.mono, count, 0, 0)
    if (bus.hasStereo) {
      this.filter(this.before, bus.left, count, 1, 0)
      this.filter(this.before, bus.right, count, 2, 0)
    }
    if (this.spec.drive > 0) {
      if (bus.hasMono) this.saturate(bus.mono, count)
      if (bus.hasStereo) {
        this.saturate(bus.left, count)
        this.saturate(bus.right, count)
      }
    }
    if (this.noise > 0) this.addNoise(bus, count, at)
    const from = this.before.length
    if (bus.hasMono) this.filter(this.after, bus.mono, count, 0, from)
    if (bus.hasStereo) {
      this.filter(this.after, bus.left, count, 1, from)
      this.filter(this.after, bus.right, count, 2, from)
    }
    if (this.drift > 0) this.swell(bus, count, at)
    if (this.spec.room !== null) this.reverb.process(bus, count)
  }

  private filter(
    sections: readonly Section[],
    x: Float32Array,
    count: number,
    side: 0 | 1 | 2,
    from: number,
  ): void {
    const memory = this.memory[side]
    let index = 0
    for (; index + 1 < sections.length; index += 2)
      runTwo(sections[index] as Section, sections[index + 1] as Section, x, count, memory, 2 * (from + index))
    if (index < sections.length) runSection(sections[index] as Section, x, count, memory, 2 * (from + index))
  }

  private saturate(x: Float32Array, count: number): void {
    const { drive, bias } = this
    const { amount } = this.settings
    const middle = bend(bias)
    const level = amount / (drive * bendSlope(bias))
    const rest = 1 - amount
    for (let i = 0; i < count; i++) {
      const value = x[i] as number
      x[i] = value * rest + (bend(value * drive + bias) - middle) * level
    }
  }

  /** What a device makes itself while it is open. */
  private addNoise(bus: Bus, count: number, at: number): void {
    const { spec, noise } = this
    const { mono, left, right, hasMono, hasStereo } = bus
    const crackle = spec.crackle / SAMPLE_RATE
    const on = ON * SAMPLE_RATE
    const end = spec.keyed ? on + BURST * SAMPLE_RATE : on
    for (let i = 0; i < count; i++) {
      const loud = Math.max(
        hasMono ? Math.abs(mono[i] as number) : 0,
        hasStereo ? Math.max(Math.abs(left[i] as number), Math.abs(right[i] as number)) : 0,
      )
      this.heard = Math.max(loud, this.heard * FALL)
      const awake = this.heard > AWAKE
      if (awake && this.quiet >= end) this.sinceOpen = 0
      this.quiet = awake ? 0 : this.quiet + 1
      if (this.quiet >= end) continue
      const hash = hashOf(at + i)
      const white = hash / 0x8000_0000 - 1
      let value = white * noise
      if (spec.keyed && (this.sinceOpen < CLICK * SAMPLE_RATE || this.quiet >= on)) value = white * noise * 12
      else if (this.quiet > 0) value *= 1 - this.quiet / end
      if (crackle > 0 && hashOf(at + i + 0x51ed_270b) < crackle * 0x1_0000_0000) value += white * noise * 60
      this.sinceOpen++
      if (hasMono) mono[i] = (mono[i] as number) + value
      if (hasStereo) {
        left[i] = (left[i] as number) + value
        right[i] = (right[i] as number) + value
      }
    }
  }

  private swollen(sample: number): number {
    return gainFromDb(this.drift * driftAt(sample))
  }

  private swell({ mono, left, right, hasMono, hasStereo }: Bus, count: number, at: number): void {
    let [a, b] = [0, 0]
    for (let i = 0; i < count; i++) {
      const step = (at + i) & (DRIFT_STEP - 1)
      if (i === 0 || step === 0)
        [a, b] = [this.swollen(at + i - step), this.swollen(at + i - step + DRIFT_STEP)] as [number, number]
      const gain = a + ((b - a) * step) / DRIFT_STEP
      if (hasMono) mono[i] = (mono[i] as number) * gain
      if (!hasStereo) continue
      left[i] = (left[i] as number) * gain
      right[i] = (right[i] as number) * gain
    }
  }
}

/** Samples from one value of the drift to the next; between them it runs straight. */
const DRIFT_STEP = 256

/** -1 to 1, always the same at a moment of the reel. */
const driftAt = (sample: number): number =>
  DRIFTS.reduce(
    (sum, hz, index) => sum + Math.sin((2 * Math.PI * hz * sample) / SAMPLE_RATE + 1.7 * index),
    0,
  ) / DRIFTS.length

/** A number from 0 to 2^32 - 1 for a sample, without a pattern (the finisher of MurmurHash3, by A. Appleby; from memory). */
function hashOf(sample: number): number {
  let hash = sample | 0
  hash = Math.imul(hash ^ (hash >>> 16), 0x85eb_ca6b)
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2_ae35)
  return (hash ^ (hash >>> 16)) >>> 0
}

/** The sections, with the quality factors of a maximally flat pass of an even order: 1 / (2 cos of the angles of its poles). */
function passSections(shape: 'highPass' | 'lowPass', hz: number, sections: number): Section[] {
  return Array.from({ length: sections }, (_, index) =>
    sectionOf(shape, hz, 0, 1 / (2 * Math.cos((Math.PI * (2 * index + 1)) / (4 * sections)))),
  )
}
