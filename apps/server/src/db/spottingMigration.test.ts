import { randomUUID } from 'node:crypto'
import {
  type ReelState,
  apply,
  documentOf,
  expectOk,
  invert,
  recordSchema,
  type Change,
  type ReelRecord,
} from '@yodel/core'
import { DataSource } from 'typeorm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { reelAt } from '../reels/milestones.js'
import { reelAnswer } from '../reels/reelAnswer.js'
import { loadChange } from '../reels/reelStore.js'
import { freshDatabase } from '../test/testServer.js'
import { openDatabase } from './dataSource.js'
import { FirstMigration1700000000000 } from './firstMigration.js'

// Records as they were before scene, perspective, company, naming rule and versions of the picture.
const reel = {
  kind: 'reel',
  id: 'r',
  show: 'Show',
  name: 'Reel 1',
  rate: '24',
  firstFrame: 86_400,
  programme: 0,
  length: 2400,
  pictureId: 'p',
}
const cue = (words: string) => ({
  ...{
    kind: 'cue',
    id: 'q',
    category: 'FX',
    number: 1,
    in: 10,
    out: 20,
    sync: 10,
    words,
    source: '',
    where: '',
    onScreen: 'on',
    notes: '',
    priority: 0,
    by: '',
    state: 'open',
  },
  omitReason: '',
})
// Sounds as they were before they had a speed, a direction, sides, a group and a lock.
const track = {
  kind: 'track',
  id: 't',
  name: 'Hard effects 1',
  category: 'FX',
  order: 'a0',
  level: 0,
  pan: 0,
  mute: false,
  solo: false,
}
const clip = {
  ...{
    kind: 'clip',
    id: 'c',
    trackId: 't',
    cueId: 'q',
    soundId: 's',
    name: 'Lever',
    start: 4000,
    length: 4800,
    offset: 0,
    sync: 480,
    recorded: 4800,
    gain: 0,
    fadeIn: 96,
  },
  ...{ fadeOut: 480, fadeInShape: 'linear', fadeOutShape: 'linear', mute: false },
}
const log = [
  { label: 'Make reel', added: [reel], updated: [], removed: [] },
  { label: 'Spot', added: [cue('')], updated: [], removed: [] },
  { label: 'Edit', added: [], updated: [[cue(''), cue('door')]], removed: [] },
  { label: 'Keep Lever', added: [track, clip], updated: [], removed: [] },
]

let database: Awaited<ReturnType<typeof freshDatabase>>
let db: DataSource
beforeAll(async () => {
  database = await freshDatabase()
  const old = new DataSource({
    type: 'postgres',
    url: database.url,
    migrations: [FirstMigration1700000000000],
  })
  await old.initialize()
  await old.runMigrations()
  await old.query(`INSERT INTO show (id, name) VALUES ('s', 'Show')`)
  await old.query(`INSERT INTO reel (id, show_id, seq) VALUES ('r', 's', 4), ('empty', 's', 0)`)
  await old.query(
    `INSERT INTO picture (id, name, file, rate, frames, width, height, codec, state) VALUES ('p', 'cut 1.mov', '/m', '24', 2400, 640, 360, 'h264', 'ready')`,
  )
  for (const [index, record] of [reel, cue('door'), track, clip].entries())
    await old.query('INSERT INTO record (reel_id, id, kind, version, data) VALUES ($1, $2, $3, $4, $5)', [
      'r',
      record.id,
      record.kind,
      [1, 3, 4, 4][index],
      JSON.stringify(record),
    ])
  for (const [index, change] of log.entries())
    await old.query(
      `INSERT INTO change (reel_id, seq, change_id, author, at, role, label, change) VALUES ('r', $1, $2, 'Me', now(), 'do', $3, $4)`,
      [index + 1, randomUUID(), change.label, JSON.stringify(change)],
    )
  await old.destroy()
  db = await openDatabase(database.url)
})
afterAll(async () => {
  await db.destroy()
  await database.drop()
})

it('brings a reel of before up to date: valid records, a first version of its picture, a log that folds to the same', async () => {
  const state = JSON.parse(await reelAnswer(db, 'r', 'Me')) as ReelState
  for (const record of state.records) expect(recordSchema.safeParse(record).error).toBeUndefined()
  const doc = documentOf(state.records)
  expect(doc.cue.get('q')).toMatchObject({ words: 'door', onScreen: 'on', scene: '', perspective: 'unsaid' })
  expect([...doc.cut.values()]).toMatchObject([{ pictureId: 'p', name: 'cut 1.mov', offset: 0 }])
  expect(doc.clip.get('c')).toMatchObject({
    speed: 1,
    reverse: false,
    sides: 'kept',
    channels: '',
    group: '',
    locked: false,
  })
  expect(state.seq).toBe(5)
  expect(documentOf((await reelAt(db, 'r', 5)).records as ReelRecord[])).toEqual(doc)
})

it('leaves what was done before undoable', async () => {
  const doc = documentOf((JSON.parse(await reelAnswer(db, 'r', 'Me')) as ReelState).records)
  const change: Change = await loadChange(db, 'r', 3)
  expect(expectOk(apply(doc, invert(change))).cue.get('q')).toMatchObject({ words: '' })
})
