import { randomUUID } from 'node:crypto'
import { setTimeout as wait } from 'node:timers/promises'
import { blankCue, type Cue, type LoggedChange, type ReelRecord } from '@yodel/core'

/** What the server said it has: a change, and the number that it gave it. */
export interface Acknowledged {
  readonly changeId: string
  readonly seq: number
}

const CUES = 60
const PAUSE_MS = 60
const ANSWER_MS = 5000

/** Somebody who works on a reel without a pause, and sends again what was not acknowledged, as a page does. */
export class Client {
  readonly acknowledged: Acknowledged[] = []
  /** Answers that a page would take for more than a server that is away. */
  readonly faults: string[] = []
  private readonly cues: Cue[] = []
  private base = 0
  private made = 0
  private working = true

  /** @param number - Tells the people of a reel apart, from 0. */
  constructor(
    private readonly url: string,
    readonly reel: string,
    private readonly number: number,
  ) {}

  stop(): void {
    this.working = false
  }

  /** Works until it is stopped; what it sent last is acknowledged then. */
  async work(): Promise<void> {
    while (this.working) {
      await this.commit(this.nextChange())
      await wait(PAUSE_MS * (0.5 + Math.random()))
    }
  }

  private nextChange(): {
    label: string
    added: ReelRecord[]
    updated: [ReelRecord, ReelRecord][]
    removed: []
  } {
    const at = this.made++
    if (this.cues.length < CUES) {
      const number = 1 + this.number * 1000 + at
      const cue: Cue = {
        ...blankCue({ category: 'FX', number, in: at, out: at + 1, sync: at }),
        id: randomUUID(),
      }
      this.cues.push(cue)
      return { label: `Spot ${number}`, added: [cue], updated: [], removed: [] }
    }
    const index = at % CUES
    const from = this.cues[index] as Cue
    const to: Cue = { ...from, words: `word ${at}` }
    this.cues[index] = to
    return { label: `Edit ${at}`, added: [], updated: [[from, to]], removed: [] }
  }

  private async commit(change: object): Promise<void> {
    const changeId = randomUUID()
    for (;;) {
      const answer = await this.post({ changeId, base: this.base, role: 'do', target: null, change })
      if (answer?.status === 200) {
        const { seq } = answer.body as { seq: number }
        this.acknowledged.push({ changeId, seq })
        this.base = seq
        return
      }
      if (answer && ![409, 502, 503, 504].includes(answer.status))
        this.faults.push(`${answer.status} ${JSON.stringify(answer.body)}`)
      if (answer?.status === 409) {
        const { details } = answer.body as { details: { missed: LoggedChange[] } }
        this.base = details.missed.at(-1)?.seq ?? this.base
      }
      await wait(100)
    }
  }

  /** Null where nobody answered, or the answer broke off. */
  private async post(body: object): Promise<{ status: number; body: unknown } | null> {
    try {
      const answer = await fetch(`${this.url}/api/reels/${this.reel}/changes`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
        signal: AbortSignal.timeout(ANSWER_MS),
      })
      return { status: answer.status, body: await answer.json() }
    } catch {
      return null
    }
  }
}
