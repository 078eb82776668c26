import { randomUUID } from 'node:crypto'
import { type ReelState, recordSchema, type Change, type Cue } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { reelAnswer } from '../reels/reelAnswer.js'
import { loadChange } from '../reels/reelStore.js'
import { freshDatabase } from '../test/testServer.js'
import { openDatabase } from './dataSource.js'
import { PlainTextMigration1700000500000 } from './plainTextMigration.js'

const cue = (words: string): Cue =>
  ({
    ...{ kind: 'cue', id: 'q', category: 'FX', number: 1, in: 10, out: 20, sync: 10, words },
    ...{ source: '', where: '', scene: '', onScreen: 'on', perspective: 'unsaid', notes: '' },
    ...{ priority: 0, by: '', state: 'open', omitReason: '' },
  }) as Cue

let database: Awaited<ReturnType<typeof freshDatabase>>
let db: DataSource
beforeAll(async () => {
  database = await freshDatabase()
  db = await openDatabase(database.url)
})
afterAll(async () => {
  await db.destroy()
  await database.drop()
})

it('takes control characters out of what an earlier version stored, and nothing else', async () => {
  const odd = cue('a\u0001b\u001bc\u007fd\u0085e')
  const fine = { ...cue('line\n\ttab, a path C:\\u0001\\doors, “quoted”'), id: 'f', number: 2 }
  const change: Change = { label: 'Spot\u0007 FX 001', added: [odd, fine], updated: [], removed: [] }
  await db.query(`INSERT INTO show (id, name, company) VALUES ('s', 'Show', '')`)
  await db.query(`INSERT INTO reel (id, show_id, seq) VALUES ('r', 's', 1)`)
  for (const record of [odd, fine]) {
    await db.query(`INSERT INTO record (reel_id, id, kind, version, data) VALUES ('r', $1, 'cue', 1, $2)`, [
      record.id,
      record,
    ])
  }
  await db.query(
    `INSERT INTO change (reel_id, seq, change_id, author, at, role, target, label, change)
     VALUES ('r', 1, $1, 'T', now(), 'do', null, $2, $3)`,
    [randomUUID(), change.label, change],
  )
  const runner = db.createQueryRunner()
  await new PlainTextMigration1700000500000().up(runner)
  await runner.release()

  const { records, log } = JSON.parse(await reelAnswer(db, 'r', 'T')) as ReelState
  expect(records.every((record) => recordSchema.safeParse(record).success)).toBe(true)
  expect(records.find(({ id }) => id === 'q')).toMatchObject({ words: 'abcde' })
  expect(records.find(({ id }) => id === 'f')).toEqual(fine)
  expect(log).toMatchObject([{ label: 'Spot FX 001' }])
  expect((await loadChange(db, 'r', 1)).added).toMatchObject([{ words: 'abcde' }, fine])
})
