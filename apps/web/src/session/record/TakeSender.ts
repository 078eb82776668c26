import type { Sound, TakeAbout, TakeEnd } from '@yodel/core'
import { beginTake, endTake, sendSamples, TakeRefused } from '../../api/takesApi.js'
import type { TakePart, TakeStore } from './TakeStore.js'

const FIRST_WAIT_MS = 300
const LONGEST_WAIT_MS = 4000
/** Samples that are sent at once. */
const MOST = 512 * 1024

const KEPT = 'What is recorded is kept in this browser, and sent as soon as that works.'

const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

/** The parts from the first on that follow each other without a hole, as many as are sent at once. */
function run(parts: readonly TakePart[], channels: number): TakePart[] {
  let next = parts[0]?.from ?? 0
  let count = 0
  let size = 0
  for (const { from, samples } of parts) {
    if (from !== next || (count > 0 && size + samples.length > MOST)) break
    next = from + samples.length / channels
    size += samples.length
    count++
  }
  return parts.slice(0, count)
}

function joined(parts: readonly TakePart[]): Float32Array<ArrayBuffer> {
  const out = new Float32Array(parts.reduce((sum, { samples }) => sum + samples.length, 0))
  let at = 0
  for (const { samples } of parts) {
    out.set(samples, at)
    at += samples.length
  }
  return out
}

/**
 * Brings one take to the server while it is recorded: what comes is kept in the browser first, then sent, again and again until it
 * is there. Only an answer that can't change ends that; what was recorded stays in the browser then.
 */
export class TakeSender {
  private readonly waiting: TakePart[] = []
  private length = 0
  private sending: Promise<void> | null = null
  private begun = false
  /** The server does not want it; the end asks once more. */
  private isRefused = false
  /** A part of it is on neither side any more. */
  private isCut = false

  constructor(
    readonly about: TakeAbout,
    private readonly store: TakeStore,
    /** Told what stands in the way, in words; null when nothing does any more. */
    private readonly onTrouble: (message: string | null) => void,
  ) {}

  /** Takes what came in. */
  add(samples: Float32Array<ArrayBuffer>): void {
    const part = { from: this.length, samples }
    this.length += samples.length / this.about.channels
    this.store
      .add(this.about.id, part)
      .catch(() => this.onTrouble('This browser has no room for takes; they go to the server alone.'))
    this.waiting.push(part)
    if (this.isRefused) return
    this.send().catch((error: unknown) => {
      this.isRefused = true
      this.onTrouble(`${error instanceof Error ? error.message : String(error)} ${KEPT}`)
    })
  }

  /** Goes on with what a page that has gone has left. */
  async takeUp(): Promise<void> {
    const parts = await this.store.parts(this.about.id)
    const last = parts.at(-1)
    this.length = last ? last.from + last.samples.length / this.about.channels : 0
    this.waiting.push(...parts)
  }

  /**
   * Ends the take: resolves with its recording when all of it is on the server, however long that takes.
   *
   * @param later - By how many samples it belongs later than was thought when it began
   * @throws TakeRefused when the server does not want it
   */
  async end(note: string, later = 0): Promise<Sound> {
    const { about } = this
    await this.store.end(about, { length: this.length, note, later }).catch(() => undefined)
    for (;;) {
      await this.send()
      const end: TakeEnd = {
        ...{ length: this.length, later },
        note: [note, this.isCut ? 'What came after its end is lost' : ''].filter(Boolean).join('; '),
      }
      try {
        return await this.persist(() => endTake(about.id, end))
      } catch (error) {
        if (!(await this.mend(error))) throw error
      }
    }
  }

  /** Sends what waits, one request after the other. */
  private send(): Promise<void> {
    this.sending ??= this.sendAll().finally(() => (this.sending = null))
    return this.sending
  }

  private async sendAll(): Promise<void> {
    const { about, waiting } = this
    if (!this.begun) await this.persist(() => beginTake(about))
    this.begun = true
    while (waiting.length > 0) {
      const parts = run(waiting, about.channels)
      const from = parts[0]?.from ?? 0
      try {
        const { length } = await this.persist(() => sendSamples(about.id, from, joined(parts)))
        while (waiting[0] && waiting[0].from + waiting[0].samples.length / about.channels <= length)
          waiting.shift()
        if (waiting[0] && waiting[0] === parts[0])
          throw new TakeRefused(`The server has ${about.name} up to ${length} and takes no more.`, '', false)
      } catch (error) {
        if (!(await this.mend(error))) throw error
      }
    }
  }

  /** The server lacks what it had: it was put back to an earlier state. What this browser has goes there again. */
  private async mend(error: unknown): Promise<boolean> {
    if (!(error instanceof TakeRefused)) return false
    const { about } = this
    const isGone = error.code === 'NOT_FOUND'
    if (isGone) await this.persist(() => beginTake(about))
    if (!isGone && error.code !== 'TAKE_GAP') return false
    const there = isGone ? 0 : (error.length ?? 0)
    const parts = await this.store.parts(about.id, there, about.channels)
    if (parts.length === 0) return false
    // Neither side has what lies in between: the take ends before that, and says so.
    this.isCut = (parts[0]?.from ?? 0) > there
    if (this.isCut) this.length = there
    this.waiting.splice(0, this.waiting.length, ...(this.isCut ? [] : parts))
    return true
  }

  /** Asks until there is an answer. @throws TakeRefused that does not pass */
  private async persist<T>(asking: () => Promise<T>): Promise<T> {
    for (let ms = FIRST_WAIT_MS; ; ms = Math.min(LONGEST_WAIT_MS, 2 * ms)) {
      try {
        const answer = await asking()
        if (ms > FIRST_WAIT_MS) this.onTrouble(null)
        return answer
      } catch (error) {
        if (!(error instanceof TakeRefused) || !error.passing) throw error
        this.onTrouble(`${error.message} ${KEPT}`)
        await wait(ms)
      }
    }
  }
}
