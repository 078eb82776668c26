import { Worker } from 'node:worker_threads'
import { samplesIn, type RenderPlan } from '@yodel/core'
import { hasAllStems, type FileNews, type FilesOrder, type FilesReport } from './filesOrder.js'

const source = import.meta.url.endsWith('.ts')
const THREAD = new URL(`./fileThread${source ? '.ts' : '.js'}`, import.meta.url).href
/** How the thread begins: of sources their loader has to be there before they are. */
const START = `${source ? "import('tsx/esm/api').then(({ register }) => register()).then(() => " : '('}import(${JSON.stringify(THREAD)}))`
/** Pieces that may wait to be written; the mix waits when there are more. */
const AHEAD = 96
const PIECE = samplesIn(1)

/** What sounds in a file and has not been sent to be written. */
interface Gathered {
  left: Float32Array
  right: Float32Array
  held: number
  /** Sample of the reel at which it begins. */
  at: number
}

/** The files of a mix, written and measured in a thread beside it. */
export class FileBench {
  private readonly thread: Worker
  private waiting = 0
  private wake: (() => void) | null = null
  private readonly ended: Promise<FilesReport>
  private readonly gathered: readonly Gathered[]
  /** The files, the mix last: by then its stems are there to be compared with it. */
  private readonly inOrder: readonly number[]

  constructor({ files, span, pop, truePeak }: FilesOrder, plan: RenderPlan) {
    this.thread = new Worker(START, { eval: true, execArgv: source ? ['--conditions=development'] : [] })
    this.ended = new Promise((resolve, reject) => {
      this.thread.on('message', (answer: FilesReport | null) => {
        if (answer) return resolve(answer)
        this.waiting--
        if (this.waiting < AHEAD) this.wake?.()
      })
      this.thread.on('error', reject)
    })
    // Whoever waits for room or for the end hears of it.
    this.ended.catch(() => undefined)
    this.gathered = files.map(() => ({ ...emptyPiece(), held: 0, at: 0 }))
    const isMix = (file: number): number => (files[file]?.source.of === 'whole' ? 1 : 0)
    this.inOrder = files.map((_, file) => file).sort((a, b) => isMix(a) - isMix(b))
    this.tell({ begin: { files, span, pop, truePeak, hasAllStems: hasAllStems(plan, files) } })
  }

  /** Takes what sounds in a file, its first sample at `at`; at most a second before it is sent. */
  take(file: number, left: Float32Array, right: Float32Array, count: number, at: number): void {
    const piece = this.gathered[file] as Gathered
    if (piece.held > 0 && (at !== piece.at + piece.held || piece.held + count > PIECE)) this.send()
    if (piece.held === 0) piece.at = at
    piece.left.set(left.subarray(0, count), piece.held)
    piece.right.set(right.subarray(0, count), piece.held)
    piece.held += count
  }

  /** Sends what was taken, and waits while too much waits to be written. */
  async room(): Promise<void> {
    this.send()
    if (this.waiting < AHEAD) return
    await Promise.race([new Promise<void>((resolve) => (this.wake = resolve)), this.ended])
    this.wake = null
  }

  /** Ends the files; what is left of them is silent. */
  async finish(): Promise<FilesReport> {
    this.send()
    this.tell({ finish: true })
    return this.ended
  }

  /** Ends the thread, which gives its files back. */
  async close(): Promise<void> {
    await this.thread.terminate()
  }

  private send(): void {
    for (const file of this.inOrder) {
      const piece = this.gathered[file] as Gathered
      const { held, at } = piece
      if (held === 0) continue
      const [left, right] = [piece.left, piece.right].map((side) =>
        held === PIECE ? side : side.slice(0, held),
      ) as [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>]
      if (held === PIECE) Object.assign(piece, emptyPiece())
      piece.held = 0
      this.waiting++
      this.tell({ file, at, left, right }, [left.buffer, right.buffer])
    }
  }

  private tell(news: FileNews, given: ArrayBuffer[] = []): void {
    this.thread.postMessage(news, given)
  }
}

const emptyPiece = (): Pick<Gathered, 'left' | 'right'> => ({
  left: new Float32Array(PIECE),
  right: new Float32Array(PIECE),
})
