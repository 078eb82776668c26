import { randomUUID } from 'node:crypto'
import { apply, documentOf, expectOk, invert, recordSchema, type Change, type ReelRecord } from '@yodel/core'
import { DataSource } from 'typeorm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { reelAt } from '../reels/milestones.js'
import { loadChange, openReel } from '../reels/reelStore.js'
import { freshDatabase } from '../test/testServer.js'
import { openDatabase } from './dataSource.js'
import { FirstMigration1700000000000 } from './firstMigration.js'

// Records as they were before scene, perspective, company, naming rule and versions of the picture.
const reel = { kind: 'reel', id: 'r', show: 'Show', name: 'Reel 1', rate: '24', firstFrame: 86_400, programme: 0, length: 2400, pictureId: 'p' }
const cue = (words: string) => ({
  ...{ kind: 'cue', id: 'q', category: 'FX', number: 1, in: 10, out: 20, sync: 10, words, source: '', where: '', onScreen: 'on', notes: '', priority: 0, by: '', state: 'open' },
  omitReason: '',
})
const log = [
  { label: 'Make reel', added: [reel], updated: [], removed: [] },
  { label: 'Spot', added: [cue('')], updated: [], removed: [] },
  { label: 'Edit', added: [], updated: [[cue(''), cue('door')]], removed: [] },
]

let database: Awaited<ReturnType<typeof freshDatabase>>
let db: DataSource
beforeAll(async () => {
  database = await freshDatabase()
  const old = new DataSource({ type: 'postgres', url: database.url, migrations: [FirstMigration1700000000000] })
  await old.initialize()
  await old.runMigrations()
  await old.query(`INSERT INTO show (id, name) VALUES ('s', 'Show')`)
  await old.query(`INSERT INTO reel (id, show_id, seq) VALUES ('r', 's', 3), ('empty', 's', 0)`)
  await old.query(`INSERT INTO picture (id, name, file, rate, frames, width, height, codec, state) VALUES ('p', 'cut 1.mov', '/m', '24', 2400, 640, 360, 'h264', 'ready')`)
  for (const [index, record] of [reel, cue('door')].entries())
    await old.query('INSERT INTO record (reel_id, id, kind, version, data) VALUES ($1, $2, $3, $4, $5)', ['r', record.id, record.kind, index * 2 + 1, JSON.stringify(record)])
  for (const [index, change] of log.entries())
    await old.query(`INSERT INTO change (reel_id, seq, change_id, author, at, role, label, change) VALUES ('r', $1, $2, 'Me', now(), 'do', $3, $4)`, [
      index + 1,
      randomUUID(),
      change.label,
      JSON.stringify(change),
    ])
  await old.destroy()
  db = await openDatabase(database.url)
})
afterAll(async () => {
  await db.destroy()
  await database.drop()
})

it('brings a reel of before up to date: valid records, a first version of its picture, a log that folds to the same', async () => {
  const state = await openReel(db, 'r', 'Me')
  for (const record of state.records) expect(recordSchema.safeParse(record).error).toBeUndefined()
  const doc = documentOf(state.records)
  expect(doc.cue['q']).toMatchObject({ words: 'door', onScreen: 'on', scene: '', perspective: 'unsaid' })
  expect(Object.values(doc.cut)).toMatchObject([{ pictureId: 'p', name: 'cut 1.mov', offset: 0 }])
  expect(state.seq).toBe(4)
  expect(documentOf((await reelAt(db, 'r', 4)).records as ReelRecord[])).toEqual(doc)
})

it('leaves what was done before undoable', async () => {
  const doc = documentOf((await openReel(db, 'r', 'Me')).records)
  const change: Change = await loadChange(db, 'r', 3)
  expect(expectOk(apply(doc, invert(change))).cue['q']).toMatchObject({ words: '' })
})
