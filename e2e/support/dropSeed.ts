import pg from 'pg'
import { seedName } from './server.js'

/** After a run of the tests: drops the demo's database, which matters where the PostgreSQL is not a throw-away one. */
export async function teardown(): Promise<void> {
  const cluster = process.env['YODEL_TEST_DATABASE_URL']
  const shared = process.env['YODEL_TEST_SHARED']
  if (!cluster || !shared) return
  const admin = new pg.Client(cluster)
  await admin.connect()
  await admin.query(`DROP DATABASE IF EXISTS ${seedName(shared)} WITH (FORCE)`)
  await admin.end()
}
