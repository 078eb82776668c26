import 'reflect-metadata'
import { DataSource } from 'typeorm'
import { ENTITIES } from './entities.js'
import { FirstMigration1700000000000 } from './firstMigration.js'
import { EditsMigration1700000300000 } from './editsMigration.js'
import { SoundsMigration1700000200000 } from './soundsMigration.js'
import { SpottingMigration1700000100000 } from './spottingMigration.js'
import { PlainTextMigration1700000500000 } from './plainTextMigration.js'
import { TracksMigration1700000400000 } from './tracksMigration.js'

/** Opens the database and brings its tables up to date. */
export async function openDatabase(url: string): Promise<DataSource> {
  const source = new DataSource({
    type: 'postgres',
    url,
    entities: ENTITIES,
    migrations: [
      FirstMigration1700000000000,
      SpottingMigration1700000100000,
      SoundsMigration1700000200000,
      EditsMigration1700000300000,
      TracksMigration1700000400000,
      PlainTextMigration1700000500000,
    ],
    migrationsTransactionMode: 'each',
    extra: { max: 12, connectionTimeoutMillis: 5000 },
  })
  await source.initialize()
  await source.runMigrations()
  return source
}
