import { KernelMemory, KernelSamples, kernels } from '../kernels/kernels.js'
import type { Settings } from '../reel/inserts.js'
import { gainFromDb } from '../signal/levels.js'
import { MIX_BLOCK } from '../signal/soundPort.js'
import { samplesIn } from '../time/convert.js'
import { SAMPLE_RATE } from '../time/units.js'
import type { Bus, Processor } from './bus.js'
import { Convolver } from './convolver.js'
import { ROOM_SPECS, type RoomPort } from './rooms.js'

/** Samples that are remembered: more than the longest wait before a room answers. */
const SIZE = 16_384
const MASK = SIZE - 1
const gain = (db: number): number => (db <= -60 ? 0 : gainFromDb(db))

/** Sets a sound in a room: all that goes in answers from the left and the right. Until the room is there, only the sound itself is heard. */
export class Reverb implements Processor<Settings<'reverb'>> {
  readonly latency = 0
  private settings: Settings<'reverb'> = { room: 'parlour', wet: -60, dry: 0, preDelay: 0 }
  private convolver: Convolver | null = null
  private readonly line = new KernelMemory(4 * (SIZE + 4))
  /** The wait before the room answers, as one echo. */
  private readonly wait = new KernelMemory(8)
  private readonly input = new KernelSamples(MIX_BLOCK)
  private readonly left = new KernelSamples(MIX_BLOCK)
  private readonly right = new KernelSamples(MIX_BLOCK)
  private now = 0

  constructor(private readonly rooms: RoomPort) {}

  set(settings: Settings<'reverb'>): void {
    if (settings.room !== this.settings.room) this.convolver = null
    this.settings = settings
    this.wait.setIntegers([samplesIn(settings.preDelay / 1000)])
    this.wait.setFloats([1], 4)
    this.enter()
  }

  tail(): number {
    const { room, preDelay } = this.settings
    return Math.ceil((Math.max(...ROOM_SPECS[room].decay) + preDelay / 1000) * SAMPLE_RATE) + 2048
  }

  reset(): void {
    this.line.clear()
    this.convolver?.reset()
  }

  process(bus: Bus, count: number): void {
    this.enter()
    this.listen(bus, count)
    bus.wakeStereo(count)
    if (!this.convolver) return
    const run = kernels()
    const { input, left, right } = this
    this.convolver.process(input.at, left.at, right.at, count)
    const wet = gain(this.settings.wet)
    run.add(bus.inLeft.at, left.at, count, wet)
    run.add(bus.inRight.at, right.at, count, wet)
  }

  /** Enters the room once it is there: best before anything sounds, since that takes a millisecond. */
  private enter(): void {
    if (this.convolver) return
    const room = this.rooms(this.settings.room)
    this.convolver = room && new Convolver(room)
  }

  /** Takes in what went into a bus so long ago as the room waits, and leaves of it what stays beside the room. */
  private listen(bus: Bus, count: number): void {
    const run = kernels()
    const { input, line, now, wait } = this
    const dry = gain(this.settings.dry)
    run.clear(input.at, 4 * count)
    const take = (side: KernelSamples, part: number): void => {
      run.add(input.at, side.at, count, part)
      run.ramp(side.at, count, dry, 0)
    }
    if (bus.hasMono) take(bus.inMono, 1)
    if (bus.hasStereo) for (const side of [bus.inLeft, bus.inRight]) take(side, Math.SQRT1_2)
    run.remember(input.at, count, line.at, MASK, now)
    run.clear(input.at, 4 * count)
    run.addEchoes(input.at, count, line.at, MASK, now, wait.at, 1)
    this.now = (now + count) & MASK
  }
}
