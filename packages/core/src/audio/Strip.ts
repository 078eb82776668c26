import { kernels } from '../kernels/kernels.js'
import { Bus } from '../treatment/bus.js'
import { Chain } from '../treatment/Chain.js'
import type { RoomPort } from '../treatment/rooms.js'
import { panGains } from '../signal/levels.js'
import type { PlanStrip } from './renderPlan.js'
import { rideLevel, ridePan, type MovingGains } from './ride.js'
import { MIX_BLOCK, type SoundPort } from '../signal/soundPort.js'
import { VoicePlayer } from './VoicePlayer.js'

const gains = (): MovingGains => [
  new Float32Array(MIX_BLOCK),
  new Float32Array(MIX_BLOCK),
  new Float32Array(MIX_BLOCK),
  new Float32Array(MIX_BLOCK),
]

/** What of each side of the bus goes to each side of the mix: mono to left and right, left to left, left to right, right to left, right to right. */
type Fixed = readonly [ml: number, mr: number, ll: number, lr: number, rl: number, rr: number]

function fixedGains({ level, pan }: PlanStrip): Fixed {
  const mono = panGains(pan, 1)
  const stereo = panGains(pan, 2)
  return [
    mono.ll * level,
    mono.lr * level,
    stereo.ll * level,
    stereo.lr * level,
    stereo.rl * level,
    stereo.rr * level,
  ]
}

/** Plays one track: its voices, its treatment, then its level and place, which may ride. */
export class Strip {
  readonly voices: VoicePlayer
  private readonly chain: Chain
  private readonly bus = new Bus()
  private readonly level = new Float32Array(MIX_BLOCK)
  private readonly moving = gains()
  private fixed: Fixed
  /** The gains before the level or place was changed while it sounded: they run to the new ones within a block, without a click. */
  private before: Fixed | null = null

  constructor(
    private plan: PlanStrip,
    port: SoundPort,
    rooms: RoomPort,
  ) {
    this.voices = new VoicePlayer(plan.voices, port, rooms)
    this.chain = new Chain(rooms)
    this.chain.set(plan.inserts)
    this.fixed = fixedGains(plan)
  }

  /** The part of the mix it belongs to; null for what is heard beside it. */
  get stem(): PlanStrip['stem'] {
    return this.plan.stem
  }

  /** Samples by which its treatment is late. */
  get latency(): number {
    return this.chain.latency
  }

  /** Replaces its plan; what sounds in both goes on. */
  set(plan: PlanStrip): void {
    if (plan === this.plan) return
    if (plan.level !== this.plan.level || plan.pan !== this.plan.pan) {
      this.before ??= this.fixed
      this.fixed = fixedGains(plan)
    }
    this.plan = plan
    this.voices.set(plan.voices)
    this.chain.set(plan.inserts)
  }

  /** Forgets what sounds in its treatment. */
  reset(): void {
    this.before = null
    this.voices.reset()
    this.chain.reset()
  }

  /**
   * Adds its next `count` samples, at most {@link MIX_BLOCK}, to the stereo side of a bus.
   *
   * @param alone - For whoever wants to have them by themselves, too: they replace what is there.
   * @returns whether anything was added
   */
  render(target: Bus, count: number, alone: Bus | null = null): boolean {
    const { bus, chain, voices } = this
    bus.clear()
    const read = voices.at
    voices.play(bus, count)
    if (this.plan.mono) bus.sum(count)
    chain.process(bus, count, read)
    if (!bus.hasMono && !bus.hasStereo) return false
    // What comes out of the treatment went in a while ago; rides are those of its own moment.
    const at = read - chain.latency
    const { levelRide, panRide, level } = this.plan
    if (levelRide) rideLevel(levelRide, at, at + count, this.level)
    if (!panRide && !this.before) {
      if (alone && !levelRide) this.level.fill(1, 0, count)
      if (alone || levelRide) addRidden(bus, this.level, this.fixed, target, count, alone)
      else addFixed(bus, this.fixed, target, count)
      return true
    }
    if (levelRide) scale(bus, this.level, count)
    alone?.left.fill(0, 0, count)
    alone?.right.fill(0, 0, count)
    if (bus.hasMono) {
      if (panRide) ridePan(panRide, level, at, at + count, 1, this.moving)
      else this.move(0, count)
      addMono(bus.mono, this.moving, target, count)
      if (alone) addMono(bus.mono, this.moving, alone, count)
    }
    if (bus.hasStereo) {
      if (panRide) ridePan(panRide, level, at, at + count, 2, this.moving)
      else this.move(2, count)
      addStereo(bus, this.moving, target, count)
      if (alone) addStereo(bus, this.moving, alone, count)
    }
    this.before = null
    return true
  }

  /** Fills the moving gains with the fixed ones from `first` on, on the way from those before where there are such. */
  private move(first: 0 | 2, count: number): void {
    const from = this.before ?? this.fixed
    for (let row = 0; row < (first === 0 ? 2 : 4); row++) {
      const [a, b] = [from[first + row] as number, this.fixed[first + row] as number]
      const gains = this.moving[row] as Float32Array
      for (let i = 0; i < count; i++) gains[i] = a + ((b - a) * (i + 1)) / count
    }
  }
}

function addFixed(bus: Bus, fixed: Fixed, { inLeft, inRight }: Bus, count: number): void {
  const [ml, mr, ll, lr, rl, rr] = fixed
  const run = kernels()
  if (bus.hasMono) run.addMono(bus.inMono.at, inLeft.at, inRight.at, count, ml, mr)
  if (bus.hasStereo)
    run.addStereo(bus.inLeft.at, bus.inRight.at, inLeft.at, inRight.at, count, ll, lr, rl, rr)
}

/** {@link addFixed} with a level for each sample; in the same go it sets a second target to it. */
function addRidden(
  { mono, left: l, right: r, hasMono, hasStereo }: Bus,
  level: Float32Array,
  fixed: Fixed,
  { left, right }: Bus,
  count: number,
  alone: Bus | null,
): void {
  const [ml, mr, ll, lr, rl, rr] = fixed
  const by = alone !== null
  const { left: byLeft, right: byRight } = alone ?? NOWHERE
  if (hasMono)
    for (let i = 0; i < count; i++) {
      const value = (mono[i] as number) * (level[i] as number)
      const toLeft = value * ml
      const toRight = value * mr
      left[i] = (left[i] as number) + toLeft
      right[i] = (right[i] as number) + toRight
      if (!by) continue
      byLeft[i] = toLeft
      byRight[i] = toRight
    }
  if (hasStereo)
    for (let i = 0; i < count; i++) {
      const gain = level[i] as number
      const a = (l[i] as number) * gain
      const b = (r[i] as number) * gain
      const toLeft = a * ll + b * rl
      const toRight = a * lr + b * rr
      left[i] = (left[i] as number) + toLeft
      right[i] = (right[i] as number) + toRight
      if (!by) continue
      byLeft[i] = hasMono ? (byLeft[i] as number) + toLeft : toLeft
      byRight[i] = hasMono ? (byRight[i] as number) + toRight : toRight
    }
}

const NOWHERE = { left: new Float32Array(0), right: new Float32Array(0) }

function scale({ mono, left, right, hasMono, hasStereo }: Bus, level: Float32Array, count: number): void {
  if (hasMono) for (let i = 0; i < count; i++) mono[i] = (mono[i] as number) * (level[i] as number)
  if (!hasStereo) return
  for (let i = 0; i < count; i++) {
    left[i] = (left[i] as number) * (level[i] as number)
    right[i] = (right[i] as number) * (level[i] as number)
  }
}

function addMono(
  mono: Float32Array,
  [toLeft, toRight]: MovingGains,
  { left, right }: Bus,
  count: number,
): void {
  for (let i = 0; i < count; i++) {
    const value = mono[i] as number
    left[i] = (left[i] as number) + value * (toLeft[i] as number)
    right[i] = (right[i] as number) + value * (toRight[i] as number)
  }
}

function addStereo(bus: Bus, [ll, lr, rl, rr]: MovingGains, { left, right }: Bus, count: number): void {
  for (let i = 0; i < count; i++) {
    const a = bus.left[i] as number
    const b = bus.right[i] as number
    left[i] = (left[i] as number) + a * (ll[i] as number) + b * (rl[i] as number)
    right[i] = (right[i] as number) + a * (lr[i] as number) + b * (rr[i] as number)
  }
}
