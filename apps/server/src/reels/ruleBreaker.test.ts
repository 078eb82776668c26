import { randomUUID } from 'node:crypto'
import {
  apply,
  changeSchema,
  checkChange,
  deleteRecords,
  documentOf,
  editCue,
  expectOk,
  invert,
  placeSound,
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
import { afterAll, beforeAll, expect, it } from 'vitest'
import { RecordEntity } from '../db/entities.js'
import { startTestServer, type TestServer } from '../test/testServer.js'
import { verifyReel } from './verify.js'

let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

const SENT = 20_000
/** A reel that has grown beyond this is emptied by half, so that late changes cost what early ones do. */
const ENOUGH = 60
const ODD = ['', 'x', '\0', '\ud800', -1, 0, 0.5, 3e9, 1e300, null, true, [], {}, '26', 'FX', 'track', 'cue']

let seed = 20_261_126
const roll = (most: number): number => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) % most
const oneOf = <T>(list: readonly T[]): T => list[roll(list.length)] as T

const post = (reel: string, payload: object) =>
  server.app.inject({ method: 'POST', url: `/api/reels/${reel}/changes`, payload })

/** An edit such as a page sends. */
function wish(doc: ReelDocument): Result<Change> {
  const id = randomUUID()
  const cue = oneOf([...doc.cue.values()]) as ReelRecord | undefined
  const clip = oneOf([...doc.clip.values()]) as ReelRecord | undefined
  const sound = { id: 's', name: 'Lever', recorded: 48_000, sync: 12_000 }
  const all = recordsOf(doc).slice(1)
  if (all.length > ENOUGH) return deleteRecords(doc, { ids: all.slice(0, ENOUGH / 2).map((one) => one.id) })
  return oneOf([
    () => spotCue(doc, { id, category: oneOf(['FX', 'BG']), in: roll(1000), out: 1000 + roll(400) }),
    () => editCue(doc, { id: cue?.id ?? '', fields: { words: `words ${roll(1000)}` } }),
    () => deleteRecords(doc, { ids: [oneOf([cue?.id ?? '', clip?.id ?? ''])] }),
    () =>
      placeSound(doc, {
        ...{ id, newTrackId: `t${id}`, category: 'FX', cueId: cue?.id ?? null, frame: roll(2000), sound },
      }),
    () => shapeClips(doc, { ids: [clip?.id ?? ''], gainBy: roll(7) - 3 }),
  ] as const)()
}

/** Breaks a change in one place: a field, an id, a kind, what it takes out, what it says twice. */
function broken(doc: ReelDocument, change: Change): unknown {
  const some = (): ReelRecord => oneOf(recordsOf(doc))
  const odd = (record: ReelRecord): ReelRecord => {
    const other = some() as unknown as Record<string, unknown>
    const field = oneOf(Object.keys(record))
    return { ...record, [field]: roll(3) === 0 ? oneOf(ODD) : (other[field] ?? oneOf(ODD)) } as ReelRecord
  }
  const { added, updated, removed } = change
  return oneOf([
    () => ({ ...change, added: added.map(odd) }),
    () => ({ ...change, updated: updated.map(([from, to]) => [from, odd(to)]) }),
    () => ({ ...change, updated: updated.map(([from, to]) => [odd(from), to]) }),
    () => ({ ...change, removed: [...removed, some()] }),
    () => ({ ...change, added: [...added, some()] }),
    () => ({ ...change, added: [...added, { ...some(), id: randomUUID() }] }),
    () => ({ ...change, updated: [...updated, [some(), some()]] }),
    () => ({ ...change, updated: [...updated, ((one) => [one, odd(one)])(some())] }),
    () => ({ ...change, added: [...added, ...added], removed: [...removed, ...removed] }),
    () => invert(change),
    () => ({ ...change, [oneOf(['label', 'added', 'updated', 'removed'])]: oneOf(ODD) }),
  ])()
}

it(`${SENT} changes, valid and broken, leave rows that are the folded log, and a log that keeps every rule`, async () => {
  const reel = await server.makeReel({ name: 'Broken' })
  const other = await server.makeReel({ name: 'Other' })
  let doc = documentOf((await server.app.inject(`/api/reels/${reel}`)).json<ReelState>().records)
  let seq = 1
  const known: string[] = []
  const met = new Map<number, number>()
  for (let sent = 0; sent < SENT; sent++) {
    const wished = wish(doc)
    const change = wished.ok ? wished.value : { label: 'Nothing', added: [], updated: [], removed: [] }
    const payload: Record<string, unknown> = {
      ...{ changeId: randomUUID(), base: seq, role: 'do', target: null },
      change: roll(3) === 0 ? change : broken(doc, change),
    }
    if (roll(20) === 0)
      payload[oneOf(['changeId', 'base', 'role', 'target'])] = oneOf([...ODD, ...known.slice(-3)])
    const to = roll(50) === 0 ? other : reel
    const answer = await post(to, payload)
    met.set(answer.statusCode, (met.get(answer.statusCode) ?? 0) + 1)
    expect([200, 400, 409, 422], `${answer.body} to ${JSON.stringify(payload)}`).toContain(answer.statusCode)
    if (answer.statusCode !== 200 || to !== reel) continue
    known.push(payload['changeId'] as string)
    // What was sent twice has its number already.
    if (answer.json<Committed>().seq <= seq) continue
    const next = apply(doc, changeSchema.parse(payload['change']))
    if (!next.ok) throw new Error(`${next.message} after ${JSON.stringify(payload)}`)
    doc = next.value
    seq = answer.json<Committed>().seq
  }
  expect(met.get(200)).toBeGreaterThan(SENT / 5)
  expect([...met.keys()].sort()).toEqual([200, 400, 409, 422])
  const log = (await server.app.inject(`/api/reels/${reel}/changes?since=0`)).json<LoggedChange[]>()
  const folded = log.reduce((before, { change }) => {
    const after = expectOk(apply(before, change))
    expect(checkChange(after, change), JSON.stringify(change)).toMatchObject({ ok: true })
    return after
  }, documentOf([]))
  const byId = (records: readonly ReelRecord[]) => records.toSorted((a, b) => (a.id < b.id ? -1 : 1))
  const rows = await server.services.db.getRepository(RecordEntity).findBy({ reelId: reel })
  expect(byId(rows.map((row) => row.data))).toEqual(byId(recordsOf(folded)))
  for (const id of [reel, other]) expect(await verifyReel(server.services.db, id)).toEqual([])
}, 300_000)

it('a change that another reel has in its log is refused, not taken for written', async () => {
  const [one, two] = [await server.makeReel({ name: 'One' }), await server.makeReel({ name: 'Two' })]
  const spotted = spotCue(
    documentOf((await server.app.inject(`/api/reels/${one}`)).json<ReelState>().records),
    {
      ...{ id: 'c', category: 'FX', in: 1, out: 2 },
    },
  )
  const payload = {
    changeId: randomUUID(),
    base: 1,
    role: 'do',
    target: null,
    change: spotted.ok && spotted.value,
  }
  expect((await post(one, payload)).statusCode).toBe(200)
  expect((await post(one, payload)).json()).toMatchObject({ seq: 2 })
  expect((await post(two, payload)).json()).toMatchObject({ code: 'BAD_REQUEST' })
  const beyond = { ...payload, changeId: randomUUID(), role: 'undo', target: 7 }
  expect((await post(two, beyond)).json()).toMatchObject({ code: 'BAD_REQUEST' })
  expect((await server.app.inject(`/api/reels/${two}`)).json<ReelState>().records).toHaveLength(1)
})

it('a row that was changed behind the log is named by the check, and nothing is mended silently', async () => {
  const reel = await server.makeReel({ name: 'Tampered' })
  const { db } = server.services
  expect(await verifyReel(db, reel)).toEqual([])
  await db.query(`UPDATE record SET data = jsonb_set(data, '{name}', '"Otherwise"') WHERE reel_id = $1`, [
    reel,
  ])
  expect(await verifyReel(db, reel)).toEqual([
    expect.stringMatching(/^reel .*: name is "Otherwise", the log says "Tampered"$/),
  ])
  await db.query(`DELETE FROM record WHERE reel_id = $1`, [reel])
  expect(await verifyReel(db, reel)).toEqual([
    expect.stringContaining('is in the log and not among the rows'),
  ])
  await db.query(`UPDATE reel SET seq = 3 WHERE id = $1`, [reel])
  expect((await verifyReel(db, reel))[0]).toBe('the log ends at 1, the reel says 3')
})
