import { SAMPLE_RATE } from '../time/units.js'
import type { Settings } from '../reel/inserts.js'
import { runPair, runSection, runTwo, sectionOf, type Section } from './biquad.js'
import type { Bus, Processor } from './bus.js'

/** The sections that settings of an equaliser ask for; those that would change nothing are left out. */
export function sectionsOf(settings: Settings<'equaliser'>): Section[] {
  const { highPass, lowPass, lowDb, firstDb, secondDb, highDb } = settings
  return [
    ...(highPass > 0 ? [sectionOf('highPass', highPass)] : []),
    ...(lowDb !== 0 ? [sectionOf('lowShelf', settings.lowHz, lowDb)] : []),
    ...(firstDb !== 0 ? [sectionOf('bell', settings.firstHz, firstDb, settings.firstQ)] : []),
    ...(secondDb !== 0 ? [sectionOf('bell', settings.secondHz, secondDb, settings.secondQ)] : []),
    ...(highDb !== 0 ? [sectionOf('highShelf', settings.highHz, highDb)] : []),
    ...(lowPass > 0 ? [sectionOf('lowPass', lowPass)] : []),
  ]
}

const MOST = 6
const SHORTEST_RING = 480
/** 174 dB. */
const SILENT_NEPERS = 20

/** High-pass, two shelves, two bells, low-pass. */
export class Equaliser implements Processor<Settings<'equaliser'>> {
  readonly latency = 0
  private sections: Section[] = []
  private ring = SHORTEST_RING
  /** Two values for each section, of the mono channel, then the left, then the right one. */
  private readonly memory = new Float64Array(3 * 2 * MOST)

  set(settings: Settings<'equaliser'>): void {
    const sections = sectionsOf(settings)
    // A section more or less moves the others on: their memories would be taken for one another's.
    if (sections.length !== this.sections.length) this.reset()
    this.sections = sections
    this.ring = ringOf(settings)
  }

  tail(): number {
    return this.ring
  }

  reset(): void {
    this.memory.fill(0)
  }

  process(bus: Bus, count: number): void {
    const { sections, memory } = this
    const left = 2 * MOST
    const right = 4 * MOST
    let index = 0
    for (; index + 1 < sections.length; index += 2) {
      const first = sections[index] as Section
      const second = sections[index + 1] as Section
      if (bus.hasMono) runTwo(first, second, bus.mono, count, memory, 2 * index)
      if (bus.hasStereo)
        runPair(first, second, bus.left, bus.right, count, memory, left + 2 * index, right + 2 * index)
    }
    const last = sections[index]
    if (!last) return
    if (bus.hasMono) runSection(last, bus.mono, count, memory, 2 * index)
    if (!bus.hasStereo) return
    runSection(last, bus.left, count, memory, left + 2 * index)
    runSection(last, bus.right, count, memory, right + 2 * index)
  }
}

/** Samples for which the slowest section rings: by its width w in Hz it falls as exp(-pi w t). */
function ringOf(settings: Settings<'equaliser'>): number {
  const {
    highPass,
    lowPass,
    lowDb,
    lowHz,
    firstDb,
    firstHz,
    firstQ,
    secondDb,
    secondHz,
    secondQ,
    highDb,
    highHz,
  } = settings
  const bell = (db: number, hz: number, q: number): number =>
    db === 0 ? Infinity : hz / q / 10 ** (Math.abs(db) / 40)
  const wide = (on: boolean, hz: number): number => (on ? hz * Math.SQRT2 : Infinity)
  const narrowest = Math.min(
    ...[
      wide(highPass > 0, highPass),
      wide(lowPass > 0, lowPass),
      wide(lowDb !== 0, lowHz / 2),
      wide(highDb !== 0, highHz / 2),
    ],
    ...[bell(firstDb, firstHz, firstQ), bell(secondDb, secondHz, secondQ)],
  )
  return SHORTEST_RING + Math.ceil((SILENT_NEPERS / Math.PI / narrowest) * SAMPLE_RATE)
}
