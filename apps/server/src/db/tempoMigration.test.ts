import { stackPlanSchema } from '@yodel/core'
import { DEMO_PLAN } from '@yodel/demo'
import { expect, it } from 'vitest'
import { freshDatabase } from '../test/testServer.js'
import { openDatabase } from './dataSource.js'

it('plans of before are as fast as they were, layer by layer in their order, and come back to what they were', async () => {
  const database = await freshDatabase()
  const db = await openDatabase(database.url)
  const bodies = async (): Promise<unknown[]> =>
    ((await db.query('SELECT body FROM stack_plan ORDER BY id')) as { body: unknown }[]).map(
      ({ body }) => body,
    )
  /** Goes back to before this migration, whatever has come after it. */
  const undo = async (): Promise<void> => {
    for (let step = 0; step < 2; step++) await db.undoLastMigration({ transaction: 'each' })
  }
  await undo()
  await db.query(`INSERT INTO show (id, name) VALUES ('s', 'Show')`)
  const layers = DEMO_PLAN.layers.map(({ tempo: _, ...layer }) => layer)
  const old = [
    { ...DEMO_PLAN, layers },
    { ...DEMO_PLAN, id: DEMO_PLAN.id.replace(/a0$/, 'a1'), layers: [] },
  ]
  for (const plan of old)
    await db.query('INSERT INTO stack_plan (id, show_id, body) VALUES ($1, $2, $3)', [
      ...[plan.id, 's', JSON.stringify(plan)],
    ])
  await db.runMigrations({ transaction: 'each' })
  expect(await bodies()).toEqual([DEMO_PLAN, { ...old[1], layers: [] }])
  for (const plan of await bodies()) expect(stackPlanSchema.safeParse(plan).error).toBeUndefined()
  await undo()
  expect(await bodies()).toEqual(old)
  await db.destroy()
  await database.drop()
})
