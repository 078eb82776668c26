import type { Insert } from '../reel/inserts.js'
import type { Bus, Processor } from './bus.js'
import { Compressor } from './Compressor.js'
import { Delay } from './Delay.js'
import { Equaliser } from './Equaliser.js'
import { Limiter } from './Limiter.js'
import { Place } from './place/Place.js'
import { Reverb } from './Reverb.js'
import type { RoomPort } from './rooms.js'

interface Link {
  insert: Insert
  readonly processor: Processor<never>
}

/** The treatment of one place, one piece after the other. A piece that is still there after a change of the plan goes on sounding. */
export class Chain {
  private links: Link[] = []
  /** Samples since something last went in, on the mono and on the stereo side. */
  private silentMono = Infinity
  private silentStereo = Infinity
  private tail = 0

  constructor(private readonly rooms: RoomPort) {}

  /** Samples by which what comes out is later than what goes in. */
  get latency(): number {
    return this.links.reduce((sum, { processor }) => sum + processor.latency, 0)
  }

  /** Samples for which it may go on sounding after the last that went in. */
  get tailLength(): number {
    return this.tail
  }

  /** Sets the pieces, in their order; those passed by are left out before. */
  set(inserts: readonly Insert[]): void {
    this.links = inserts.map((insert) => {
      const known = this.links.find(
        (link) => link.insert.id === insert.id && link.insert.effect === insert.effect,
      )
      if (known?.insert === insert) return known
      const processor = known?.processor ?? processorOf(insert, this.rooms)
      ;(processor as Processor<Insert>).set(insert)
      if (!known) processor.reset()
      return { insert, processor }
    })
    this.tail = this.links.reduce((sum, { processor }) => sum + processor.tail(), 0)
  }

  /** Forgets everything that went in. */
  reset(): void {
    for (const { processor } of this.links) processor.reset()
    this.silentMono = this.silentStereo = Infinity
  }

  /** Treats the next samples. When all that went in has died away, nothing is computed. */
  process(bus: Bus, count: number, at: number): void {
    if (this.links.length === 0) return
    this.silentMono = bus.hasMono ? 0 : this.silentMono + count
    this.silentStereo = bus.hasStereo ? 0 : this.silentStereo + count
    const awake = this.tail + count
    if (Math.min(this.silentMono, this.silentStereo) > awake) return
    // What went in has not died away yet.
    if (this.silentMono <= awake) bus.wakeMono(count)
    if (this.silentStereo <= awake) bus.wakeStereo(count)
    for (const { processor } of this.links) processor.process(bus, count, at)
  }
}

function processorOf(insert: Insert, rooms: RoomPort): Processor<never> {
  switch (insert.effect) {
    case 'equaliser':
      return new Equaliser()
    case 'compressor':
      return new Compressor()
    case 'limiter':
      return new Limiter()
    case 'reverb':
      return new Reverb(rooms)
    case 'delay':
      return new Delay()
    case 'place':
      return new Place()
  }
}
