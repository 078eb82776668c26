import { Worker } from 'node:worker_threads'
import type { FileMeasures, MeterNews } from './meterThread.js'

const source = import.meta.url.endsWith('.ts')
const THREAD = new URL(`./meterThread${source ? '.ts' : '.js'}`, import.meta.url).href
/** How the thread begins: of sources their loader has to be there before they are. */
const START = `${source ? "import('tsx/esm/api').then(({ register }) => register()).then(() => " : '('}import(${JSON.stringify(THREAD)}))`
/** Pieces that may wait to be measured; the mix waits for the meters when there are more. */
const AHEAD = 48

/** The meters of the files of a mix, at work in a thread beside it. */
export class MeterBench {
  private readonly thread: Worker
  private waiting = 0
  private wake: (() => void) | null = null
  private readonly ended: Promise<FileMeasures[]>

  /** @param files - How many. @param truePeak - True peak over which places are listed, dBTP, or null */
  constructor(files: number, truePeak: number | null) {
    this.thread = new Worker(START, { eval: true, execArgv: source ? ['--conditions=development'] : [] })
    this.ended = new Promise((resolve, reject) => {
      this.thread.on('message', (answer: FileMeasures[] | null) => {
        if (answer) return resolve(answer)
        this.waiting--
        if (this.waiting < AHEAD) this.wake?.()
      })
      this.thread.on('error', reject)
    })
    // Whoever waits for room or for the end hears of it.
    this.ended.catch(() => undefined)
    this.tell({ begin: { files, truePeak } })
  }

  /** Measures the next interleaved samples of a file; they are gone for whoever gave them. */
  take(file: number, samples: Float32Array): void {
    this.waiting++
    this.thread.postMessage({ file, samples } satisfies MeterNews, [samples.buffer as ArrayBuffer])
  }

  /** Measures frames of silence. */
  silence(file: number, silence: number): void {
    if (silence === 0) return
    this.waiting++
    this.tell({ file, silence })
  }

  /** Waits while too much waits to be measured. */
  async room(): Promise<void> {
    if (this.waiting < AHEAD) return
    await Promise.race([new Promise<void>((resolve) => (this.wake = resolve)), this.ended])
    this.wake = null
  }

  /** What was measured of each file. @param from - Sample of the reel with which the files begin */
  async finish(from: number): Promise<FileMeasures[]> {
    this.tell({ finish: { from } })
    return this.ended
  }

  /** Ends the thread. */
  async close(): Promise<void> {
    await this.thread.terminate()
  }

  private tell(news: MeterNews): void {
    this.thread.postMessage(news)
  }
}
