import { samplesIn } from '../time/convert.js'
import { SAMPLE_RATE } from '../time/units.js'
import { gainFromDb } from '../signal/levels.js'
import type { Settings } from '../reel/inserts.js'
import type { Bus, Processor } from './bus.js'
import { Convolver } from './convolver.js'
import { ROOM_SPECS, type FoldedRoom, type RoomPort } from './rooms.js'

const SIZE = 16_384
const MASK = SIZE - 1
const gain = (db: number): number => (db <= -60 ? 0 : gainFromDb(db))

/** Sets a sound in a room: all that goes in answers from the left and the right. Until the room is there, only the sound itself is heard. */
export class Reverb implements Processor<Settings<'reverb'>> {
  readonly latency = 0
  private settings: Settings<'reverb'> = { room: 'parlour', wet: -60, dry: 0, preDelay: 0 }
  private room: FoldedRoom | null = null
  private sides: readonly [Convolver, Convolver] | null = null
  private readonly line = new Float32Array(SIZE)
  private now = 0

  constructor(private readonly rooms: RoomPort) {}

  set(settings: Settings<'reverb'>): void {
    if (settings.room !== this.settings.room) this.room = this.sides = null
    this.settings = settings
  }

  tail(): number {
    const { room, preDelay } = this.settings
    return Math.ceil((Math.max(...ROOM_SPECS[room].decay) + preDelay / 1000) * SAMPLE_RATE) + 2048
  }

  reset(): void {
    this.line.fill(0)
    for (const side of this.sides ?? []) side.reset()
  }

  process(bus: Bus, count: number): void {
    if (!this.room) {
      this.room = this.rooms(this.settings.room)
      this.sides = this.room && [new Convolver(this.room[0]), new Convolver(this.room[1])]
    }
    const dry = gain(this.settings.dry)
    const wet = gain(this.settings.wet)
    const late = samplesIn(this.settings.preDelay / 1000)
    const { mono, left, right, hasMono, hasStereo } = bus
    bus.wakeStereo(count)
    for (let i = 0; i < count; i++) {
      const m = hasMono ? (mono[i] as number) : 0
      const l = hasStereo ? (left[i] as number) : 0
      const r = hasStereo ? (right[i] as number) : 0
      this.line[this.now & MASK] = m + Math.SQRT1_2 * (l + r)
      const input = this.line[(this.now - late) & MASK] as number
      this.now++
      if (hasMono) mono[i] = m * dry
      left[i] = l * dry + (this.sides ? this.sides[0].next(input) * wet : 0)
      right[i] = r * dry + (this.sides ? this.sides[1].next(input) * wet : 0)
    }
  }
}
