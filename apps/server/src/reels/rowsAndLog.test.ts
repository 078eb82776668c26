import { randomUUID } from 'node:crypto'
import {
  apply,
  cuesInOrder,
  deleteRecords,
  documentOf,
  editCue,
  invert,
  isEmpty,
  moveClips,
  placeSound,
  rebaseChange,
  recordsOf,
  shapeClips,
  spotCue,
  type Change,
  type Committed,
  type LoggedChange,
  type ReelDocument,
  type ReelRecord,
  type ReelState,
  type Result,
} from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

const SOUND = { id: 's', name: 'Lever', recorded: 48_000, sync: 12_000 }
const sorted = (records: readonly ReelRecord[]): ReelRecord[] =>
  records.toSorted((a, b) => (a.id < b.id ? -1 : 1))

/** Somebody who edits a reel, knows it as far as the last answer told, and fits what is in conflict. */
class Hand {
  doc: ReelDocument = documentOf([])
  seq = 0
  constructor(
    private readonly reel: string,
    private readonly roll: (most: number) => number,
  ) {}

  async open(): Promise<void> {
    const state = (await server.app.inject(`/api/reels/${this.reel}`)).json<ReelState>()
    this.doc = documentOf(state.records)
    this.seq = state.seq
  }

  /** Some edit, possible or not. */
  wish(): Result<Change> {
    const { doc, roll } = this
    const id = randomUUID()
    const cue = cuesInOrder(doc)[roll(Math.max(1, doc.cue.size))]
    const clip = [...doc.clip.values()][roll(Math.max(1, doc.clip.size))]
    switch (roll(7)) {
      case 0:
      case 1:
        return spotCue(doc, { id, category: 'FX', in: roll(1000), out: 1000 + roll(1000) })
      case 2:
        return editCue(doc, { id: cue?.id ?? '', fields: { words: `words ${roll(1000)}` } })
      case 3:
        return deleteRecords(doc, { ids: [cue?.id ?? ''] })
      case 4:
        return placeSound(doc, {
          id,
          newTrackId: `t${id}`,
          category: 'FX',
          cueId: null,
          frame: roll(2000),
          sound: SOUND,
        })
      case 5:
        return moveClips(doc, { ids: [clip?.id ?? ''], by: roll(200_000) - 100_000 })
      default:
        return shapeClips(doc, { ids: [clip?.id ?? ''], gainBy: roll(7) - 3 })
    }
  }

  async send(change: Change): Promise<boolean> {
    const payload = { changeId: randomUUID(), base: this.seq, role: 'do', target: null, change }
    const answer = await server.app.inject({
      method: 'POST',
      url: `/api/reels/${this.reel}/changes`,
      payload,
    })
    const body = answer.json<Committed & { details?: { missed?: LoggedChange[] } }>()
    const missed = body.missed ?? body.details?.missed ?? []
    for (const entry of missed) this.take(entry.change, entry.seq)
    if (answer.statusCode === 200) this.take(change, body.seq)
    expect([200, 409]).toContain(answer.statusCode)
    return answer.statusCode === 200
  }

  async catchUp(): Promise<void> {
    const url = `/api/reels/${this.reel}/changes?since=${this.seq}`
    for (const entry of (await server.app.inject(url)).json<LoggedChange[]>())
      this.take(entry.change, entry.seq)
  }

  private take(change: Change, seq: number): void {
    if (seq <= this.seq) return
    const next = apply(this.doc, change)
    if (!next.ok) throw new Error(`the log does not fit at ${seq}: ${next.message}`)
    this.doc = next.value
    this.seq = seq
  }

  /** Edits, and where somebody was quicker, fits the edit to what they did and tries once more. */
  async edit(): Promise<void> {
    const wished = this.wish()
    if (!wished.ok || isEmpty(wished.value)) return
    const fitted = rebaseChange(this.doc, wished.value)
    if (!fitted.ok || isEmpty(fitted.value.change)) return
    if (await this.send(fitted.value.change)) {
      if (this.roll(5) === 0) await this.undo(fitted.value.change)
      return
    }
    const again = rebaseChange(this.doc, wished.value)
    if (again.ok && !isEmpty(again.value.change)) await this.send(again.value.change)
  }

  private async undo(change: Change): Promise<void> {
    const back = rebaseChange(this.doc, invert(change))
    if (back.ok && !isEmpty(back.value.change)) await this.send(back.value.change)
  }
}

describe('a reel that several people edit at once', () => {
  it.each([1, 2, 3])(
    'has rows that are its folded log, and all know it alike in the end (seed %i)',
    async (seed) => {
      let state = seed * 7919
      const roll = (most: number): number => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) % most
      const id = await server.makeReel({ name: `Reel ${seed}`, lengthSeconds: 600 })
      const hands = [new Hand(id, roll), new Hand(id, roll), new Hand(id, roll)]
      for (const hand of hands) await hand.open()
      for (let round = 0; round < 60; round++) await Promise.all(hands.map((hand) => hand.edit()))

      const rows = (await server.app.inject(`/api/reels/${id}`)).json<ReelState>()
      const log = (await server.app.inject(`/api/reels/${id}/changes?since=0`)).json<LoggedChange[]>()
      expect(log.map((entry) => entry.seq)).toEqual(log.map((_, index) => index + 1))
      expect(log.length).toBeGreaterThan(40)
      const folded = log.reduce((doc, { change }) => {
        const next = apply(doc, change)
        if (!next.ok) throw new Error(next.message)
        return next.value
      }, documentOf([]))
      expect(sorted(rows.records)).toEqual(sorted(recordsOf(folded)))
      for (const hand of hands) {
        await hand.catchUp()
        expect(sorted(recordsOf(hand.doc))).toEqual(sorted(rows.records))
      }
    },
  )
})
