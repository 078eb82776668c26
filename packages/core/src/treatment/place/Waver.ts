import { KernelMemory, kernels, type Address } from '../../kernels/kernels.js'
import { MIX_BLOCK } from '../../signal/soundPort.js'
import { SAMPLE_RATE } from '../../time/units.js'

/** Samples from one value to the next; between them it runs straight. */
const STEP = 256
/** Samples that it is late at least, so that four lie around every place. */
const LEAST = 2
/** Samples that a line remembers: more than the latest that is asked for. */
const BEFORE = 512
const FLOAT = 4
const FINE = 2 ** 20

/** How a pitch wavers: so many times a second, by a part of the speed at most, up to 0.01. */
export interface Wavering {
  readonly hz: number
  readonly part: number
}

/** Lets the pitch of one channel waver, as a disc does that does not turn round its middle: always alike at a moment of the reel. */
export class Waver {
  private readonly line = new KernelMemory(FLOAT * (BEFORE + MIX_BLOCK))

  /** Forgets what went in. */
  reset(): void {
    this.line.clear()
  }

  /** Works on `count` samples in place, of which the first is sample `at` of the reel. */
  run(x: Address, count: number, at: number, wavering: Wavering): void {
    const run = kernels()
    const first = this.line.at + FLOAT * BEFORE
    run.move(first, x, FLOAT * count)
    for (let i = 0; i < count;) {
      const into = (at + i) & (STEP - 1)
      const length = Math.min(STEP - into, count - i)
      const [from, to] = [lateAt(at + i - into, wavering), lateAt(at + i - into + STEP, wavering)]
      const step = Math.round((to - from) / STEP)
      run.waver(x + FLOAT * i, length, first + FLOAT * i, from + step * into, step)
      i += length
    }
    run.move(this.line.at, this.line.at + FLOAT * count, FLOAT * BEFORE)
  }
}

/** How late a moment is, in {@link FINE} parts of a sample: its slope is what the speed is off by. */
function lateAt(sample: number, { hz, part }: Wavering): number {
  const turns = 2 * Math.PI * (hz / SAMPLE_RATE)
  return Math.round(FINE * (LEAST + (part / turns) * (1 + Math.sin(turns * sample))))
}
