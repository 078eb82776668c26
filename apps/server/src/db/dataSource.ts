import 'reflect-metadata'
import { setTimeout } from 'node:timers/promises'
import { DataSource } from 'typeorm'
import { isAway } from './isAway.js'
import { ENTITIES } from './entities.js'
import { FilesMigration1700000700000 } from './filesMigration.js'
import { ChannelsMigration1700001000000 } from './channelsMigration.js'
import { ClearedMigration1700000900000 } from './clearedMigration.js'
import { GuidesMigration1700000800000 } from './guidesMigration.js'
import { FirstMigration1700000000000 } from './firstMigration.js'
import { EditsMigration1700000300000 } from './editsMigration.js'
import { SoundsMigration1700000200000 } from './soundsMigration.js'
import { SpottingMigration1700000100000 } from './spottingMigration.js'
import { MovementMigration1700001400000 } from './movementMigration.js'
import { PlainTextMigration1700000500000 } from './plainTextMigration.js'
import { PoolsMigration1700001200000 } from './poolsMigration.js'
import { StackPlansMigration1700001300000 } from './stackPlansMigration.js'
import { TempoMigration1700001500000 } from './tempoMigration.js'
import { ScratchMigration1700001600000 } from './scratchMigration.js'
import { ThrownMigration1700001100000 } from './thrownMigration.js'
import { TracksMigration1700000400000 } from './tracksMigration.js'
import { TurnoverMigration1700000600000 } from './turnoverMigration.js'

/** As long as a database that is being started, or started again, is waited for. */
const OPEN_MS = 30_000

/** Opens the database, waiting while it is being started, and brings its tables up to date. @throws Error of the driver */
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
      TurnoverMigration1700000600000,
      FilesMigration1700000700000,
      GuidesMigration1700000800000,
      ClearedMigration1700000900000,
      ChannelsMigration1700001000000,
      ThrownMigration1700001100000,
      PoolsMigration1700001200000,
      StackPlansMigration1700001300000,
      MovementMigration1700001400000,
      TempoMigration1700001500000,
      ScratchMigration1700001600000,
    ],
    migrationsTransactionMode: 'each',
    extra: { max: 12, connectionTimeoutMillis: 5000 },
  })
  for (const until = Date.now() + OPEN_MS; !source.isInitialized;) {
    await source.initialize().catch(async (error: unknown) => {
      if (!isAway(error) || Date.now() > until) throw error
      await setTimeout(200)
    })
  }
  await source.runMigrations()
  return source
}
