import { KernelMemory, kernels } from '../../kernels/kernels.js'
import type { Room } from '../../reel/inserts.js'
import { MIX_BLOCK } from '../../signal/soundPort.js'
import { SAMPLE_RATE } from '../../time/units.js'
import type { Bus } from '../bus.js'
import { ROOM_SPECS } from '../rooms.js'
import { HalfBandDown, HalfBandUp } from './HalfBand.js'
import { ROOM_RATE, RoomNetwork } from './RoomNetwork.js'
import { workspace } from './workspace.js'

/** Samples of the mix for one in the room. */
const FEWER = SAMPLE_RATE / ROOM_RATE
/** Pairs of weights of the filters between 48 and 24 kHz, and between 24 and 12 kHz. */
const WIDE = 3
const NARROW = 6
/** A block, and what was left of the one before. */
const MOST = MIX_BLOCK + FEWER
const FLOAT = 4

/**
 * The room that a place stands in. It answers up to about 4.6 kHz: what a place lets through, and what a room does not swallow at
 * once, lies below; so it makes do with a quarter of the samples.
 */
export class PlaceRoom {
  private readonly downs = [new HalfBandDown(WIDE, MOST / 2), new HalfBandDown(NARROW, MOST / FEWER)] as const
  private readonly ups = [0, 1].map(
    () => [new HalfBandUp(NARROW, MOST / FEWER), new HalfBandUp(WIDE, MOST / 2)] as const,
  )
  private readonly network: RoomNetwork
  private readonly coming = new KernelMemory(FLOAT * MOST)
  private readonly going = [0, 1].map(() => new KernelMemory(FLOAT * (MOST + FEWER)))
  /** Samples that wait to come in. */
  private waiting = 0
  /** Samples that wait to go out: together with those that wait to come in always three. */
  private ready = FEWER - 1

  constructor(room: Room, size: number) {
    const [wide, narrow] = this.downs
    const [up, last] = this.ups[0] as (typeof this.ups)[number]
    const late = wide.delay + 2 * narrow.delay + 2 * up.delay + last.delay + FEWER - 1
    this.network = new RoomNetwork(ROOM_SPECS[room], size, late / SAMPLE_RATE)
  }

  /** Forgets what sounds in it. */
  reset(): void {
    for (const part of [...this.downs, ...this.ups.flat(), this.network]) part.reset()
    for (const memory of [this.coming, ...this.going]) memory.clear()
    this.waiting = 0
    this.ready = FEWER - 1
  }

  /** Lets a bus sound in it; what was mono stays so beside. @param dry - Gain of the sound itself @param wet - Gain of the room */
  process(bus: Bus, count: number, dry: number, wet: number): void {
    const run = kernels()
    const coming = this.coming.at + FLOAT * this.waiting
    const sides = [bus.inLeft.at, bus.inRight.at]
    if (bus.hasMono) {
      run.move(coming, bus.inMono.at, FLOAT * count)
      run.ramp(bus.inMono.at, count, dry, 0)
    } else run.clear(coming, FLOAT * count)
    if (bus.hasStereo)
      for (const side of sides) {
        run.add(coming, side, count, Math.SQRT1_2)
        run.ramp(side, count, dry, 0)
      }
    bus.wakeStereo(count)
    this.waiting += count
    this.answer()
    this.ready -= count
    for (let ear = 0; ear < 2; ear++) {
      const { at } = this.going[ear] as KernelMemory
      run.add(sides[ear] as number, at, count, wet)
      run.move(at, at + FLOAT * count, FLOAT * this.ready)
    }
  }

  /** Lets all whole groups of samples that wait sound in the room. */
  private answer(): void {
    const { first, second } = workspace()
    const few = Math.floor(this.waiting / FEWER)
    const many = few * FEWER
    this.downs[0].process(this.coming.at, many / 2, first)
    this.downs[1].process(first, few, first)
    this.network.process(first, first, second, few)
    for (let ear = 0; ear < 2; ear++) {
      const low = ear === 0 ? first : second
      const [up, last] = this.ups[ear] as (typeof this.ups)[number]
      up.process(low, few, low)
      last.process(low, 2 * few, (this.going[ear] as KernelMemory).at + FLOAT * this.ready)
    }
    this.waiting -= many
    kernels().move(this.coming.at, this.coming.at + FLOAT * many, FLOAT * this.waiting)
    this.ready += many
  }
}
