import { KernelMemory, kernels, type Address } from '../../kernels/kernels.js'
import type { Section } from '../biquad.js'

const FOUR = 4
/** Of four sections: five coefficients and two states each, 64 bit. */
const GROUP = FOUR * 7 * 8
const COEFFICIENTS = FOUR * 5
const THROUGH: Section = [1, 0, 0, 0, 0]

/** Sections of second order in a row on one channel, four at a time. What sounds in them goes on when they are set anew. */
export class SectionRow {
  private readonly memory: KernelMemory
  private groups = 0

  /** @param most - Sections at most. */
  constructor(most: number) {
    this.memory = new KernelMemory(Math.ceil(most / FOUR) * GROUP)
  }

  /** Sets the sections, from first to last. */
  set(sections: readonly Section[]): void {
    this.groups = Math.ceil(sections.length / FOUR)
    for (let group = 0; group < this.groups; group++) {
      const rows = new Float64Array(COEFFICIENTS)
      for (let lane = 0; lane < FOUR; lane++) {
        const [b0, b1, b2, a1, a2] = sections[FOUR * group + lane] ?? THROUGH
        for (const [row, value] of [b0, b1 - a1 * b0, b2 - a2 * b0, a1, a2].entries())
          rows[FOUR * row + lane] = value
      }
      this.memory.setDoubles(rows, group * GROUP)
    }
  }

  /** Forgets what went in. */
  reset(): void {
    for (let group = 0; group < this.groups; group++)
      this.memory.setDoubles(new Float64Array(2 * FOUR), group * GROUP + COEFFICIENTS * 8)
  }

  /** Filters `count` samples in place. */
  run(x: Address, count: number): void {
    for (let group = 0; group < this.groups; group++)
      kernels().fourSections(x, count, this.memory.at + group * GROUP)
  }
}
