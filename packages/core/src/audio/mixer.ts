import { CATEGORIES, type Category } from '../reel/categories.js'
import { kernels } from '../kernels/kernels.js'
import { Bus } from '../treatment/bus.js'
import { Chain } from '../treatment/Chain.js'
import { foldedRoom, type RoomPort } from '../treatment/rooms.js'
import type { RenderPlan } from './renderPlan.js'
import { MIX_BLOCK, type SoundPort } from '../signal/soundPort.js'
import { Strip } from './Strip.js'

/**
 * Told what the mix is made of, block by block: `part` is a category for its stem, or the whole. The arrays hold it
 * up to `count` until the next call; their first is sample `at` of the reel. Of what is silent nothing is told.
 */
export type MixTap = (
  part: Category | 'whole',
  left: Float32Array,
  right: Float32Array,
  count: number,
  at: number,
) => void

/** Told what each track gives to its stem, like {@link MixTap}; `key` is that of its strip. */
export type StripTap = (
  key: string,
  left: Float32Array,
  right: Float32Array,
  count: number,
  at: number,
) => void

/** What the mix is made of, in the order in which taps are told of it. */
export const MIX_PARTS = [...CATEGORIES, 'whole'] as const

interface Stem {
  readonly bus: Bus
  readonly chain: Chain
}

/**
 * Renders a plan: voices into tracks, tracks into stems, stems into the whole, each with its treatment.
 * The same code plays in the browser's audio thread and bounces on the server. Treatment that looks ahead is fed earlier,
 * so that all that is heard together lies together.
 */
export class Mixer {
  /** Told what the mix is made of while it is rendered; not of what is rendered to warm up. */
  tap: MixTap | null = null
  /** Told what each track gives; costs only where it is set. */
  stripTap: StripTap | null = null
  private position = 0
  private readonly strips = new Map<string, Strip>()
  private readonly stems: ReadonlyMap<Category, Stem>
  private readonly whole: Stem
  private gain = 1
  private readonly scratch = [new Float32Array(MIX_BLOCK), new Float32Array(MIX_BLOCK)] as const
  private readonly alone = new Bus()
  /** What is heard beside the mix. */
  private readonly beside = new Bus()
  private missed = 0

  /** @param rooms - Where reverbs get their rooms from; made on the spot when not given. */
  constructor(
    plan: RenderPlan,
    private readonly port: SoundPort,
    private readonly rooms: RoomPort = foldedRoom,
  ) {
    const stem = (): Stem => ({ bus: new Bus(), chain: new Chain(rooms) })
    this.stems = new Map(CATEGORIES.map((category) => [category, stem()]))
    this.whole = stem()
    this.adopt(plan)
    this.seek(0)
  }

  /** Blocks of a voice for which the port had no sound, since the last {@link Mixer.forgetMisses}. */
  get misses(): number {
    let sum = this.missed
    for (const strip of this.strips.values()) sum += strip.voices.misses
    return sum
  }

  /** Counts misses from 0. */
  forgetMisses(): void {
    this.missed = 0
    for (const strip of this.strips.values()) strip.voices.misses = 0
  }

  /** Replaces the plan; what sounds in both goes on without a gap. */
  setPlan(plan: RenderPlan): void {
    const before = [...this.strips].map(([key, strip]) => [key, this.pathOf(strip)] as const)
    this.adopt(plan)
    for (const [key, path] of before) {
      const strip = this.strips.get(key)
      if (strip && this.pathOf(strip) !== path) strip.voices.seek(this.position + this.pathOf(strip))
    }
  }

  /** Sets the sample of the reel from which the next call renders; what still sounds in treatment is forgotten. */
  seek(position: number): void {
    for (const { chain } of this.stems.values()) chain.reset()
    this.whole.chain.reset()
    for (const strip of this.strips.values()) strip.reset()
    this.jump(position)
  }

  /** Like {@link Mixer.seek}, but what sounds in treatment goes on: for going round in a loop. */
  jump(position: number): void {
    this.position = position - this.latency
    for (const strip of this.strips.values()) strip.voices.seek(this.position + this.pathOf(strip))
    const [left, right] = this.scratch
    const { tap, stripTap } = this
    this.tap = this.stripTap = null
    while (this.position < position)
      this.renderBlock(left, right, 0, Math.min(MIX_BLOCK, position - this.position))
    this.tap = tap
    this.stripTap = stripTap
  }

  /** Samples by which what is read first comes out later: who wants every tap from a sample on begins that much earlier. */
  get latency(): number {
    let latest = 0
    for (const strip of this.strips.values()) latest = Math.max(latest, this.pathOf(strip))
    return latest
  }

  /** Sample of the reel that the next call renders first. */
  get at(): number {
    return this.position
  }

  /**
   * Renders the next `length` samples into `left` and `right` at `into`, replacing what is there.
   *
   * @param length - Samples, 0 or more; longer than {@link MIX_BLOCK} is done in pieces.
   */
  render(left: Float32Array, right: Float32Array, into: number, length: number): void {
    for (let done = 0; done < length;) {
      const count = Math.min(MIX_BLOCK, length - done)
      this.renderBlock(left, right, into + done, count)
      done += count
    }
  }

  private renderBlock(left: Float32Array, right: Float32Array, into: number, count: number): void {
    left.fill(0, into, into + count)
    right.fill(0, into, into + count)
    for (const { bus } of this.stems.values()) bus.clear()
    const { bus: whole, chain } = this.whole
    const { beside } = this
    whole.clear()
    beside.clear()
    for (const [key, strip] of this.strips) {
      const bus = strip.stem === null ? beside : (this.stems.get(strip.stem) as Stem).bus
      bus.wakeStereo(count)
      if (!this.stripTap || strip.stem === null) strip.render(bus, count)
      else this.renderTapped(key, strip, bus, count)
    }
    if (beside.hasStereo) {
      add(beside.left, left, into, count)
      add(beside.right, right, into, count)
    }
    const wholeAt = this.position + chain.latency
    for (const [category, stem] of this.stems) {
      stem.chain.process(stem.bus, count, wholeAt + stem.chain.latency)
      if (!stem.bus.hasStereo) continue
      whole.wakeStereo(count)
      kernels().addSound(whole.inLeft.at, stem.bus.inLeft.at, count, 1)
      kernels().addSound(whole.inRight.at, stem.bus.inRight.at, count, 1)
      this.tap?.(category, stem.bus.left, stem.bus.right, count, wholeAt)
    }
    chain.process(whole, count, wholeAt)
    if (whole.hasStereo) {
      add(whole.left, left, into, count, this.gain)
      add(whole.right, right, into, count, this.gain)
      this.tap?.('whole', whole.left, whole.right, count, this.position)
    }
    this.position += count
  }

  /** Renders a strip into its stem and, by itself, for the tap; the stem is the same to the bit as without it. */
  private renderTapped(key: string, strip: Strip, own: Bus, count: number): void {
    const { alone } = this
    const at = strip.voices.at - strip.latency
    if (strip.render(own, count, alone)) this.stripTap?.(key, alone.left, alone.right, count, at)
  }

  /** Samples by which what a strip reads now comes out later. */
  private pathOf(strip: Strip): number {
    const stem =
      strip.stem === null ? 0 : (this.stems.get(strip.stem)?.chain.latency ?? 0) + this.whole.chain.latency
    return strip.latency + stem
  }

  private adopt(plan: RenderPlan): void {
    for (const [category, { chain }] of this.stems) chain.set(plan.stems[category] ?? [])
    this.whole.chain.set(plan.whole)
    this.gain = plan.gain
    const keys = new Set(plan.strips.map(({ key }) => key))
    for (const [key, strip] of this.strips) {
      if (keys.has(key)) continue
      this.missed += strip.voices.misses
      this.strips.delete(key)
    }
    for (const wanted of plan.strips) {
      const known = this.strips.get(wanted.key)
      if (known) known.set(wanted)
      else {
        const strip = new Strip(wanted, this.port, this.rooms)
        this.strips.set(wanted.key, strip)
        strip.voices.seek(this.position + this.pathOf(strip))
      }
    }
  }
}

function add(source: Float32Array, into: Float32Array, at: number, count: number, gain = 1): void {
  for (let i = 0; i < count; i++) into[at + i] = (into[at + i] as number) + (source[i] as number) * gain
}
