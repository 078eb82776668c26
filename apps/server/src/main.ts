import { buildApp } from './buildApp.js'
import { openDatabase } from './db/dataSource.js'
import { seedDemo } from './demo/seedDemo.js'
import { reasonOf } from './errors.js'
import { makeServices } from './services.js'
import { readSettings } from './settings.js'
import { wakeShelves } from './sounds/reindex.js'

/** Starts Yodel with the settings of the environment and stops it on a signal. */
async function main(): Promise<void> {
  const settings = readSettings(process.env)
  const db = await openDatabase(settings.databaseUrl).catch((error: unknown) => {
    throw new Error(`Yodel can't reach its database (YODEL_DATABASE_URL): ${reasonOf(error)}`)
  })
  const services = makeServices(settings, db, {
    error: (line: unknown) => console.error(line),
    info: () => undefined,
  } as never)
  const app = await buildApp(services)
  const address = await app
    .listen({ host: settings.host, port: settings.port })
    .catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE')
        throw new Error(
          `Port ${settings.port} is in use. Stop the other program, or start with another: YODEL_PORT=4760 npm start`,
        )
      throw error
    })
  if (settings.demo) await seedDemo(services)
  services.jobs.start()
  void wakeShelves(services).catch((error: unknown) => console.error(`shelves: ${reasonOf(error)}`))
  console.log(`Yodel is at ${address.replace('[::1]', 'localhost')}`)
  const stop = async (): Promise<void> => {
    services.watcher.stop()
    await app.close()
    await services.jobs.stop()
    await Promise.all([services.pool.destroy(), services.ears.destroy()])
    await db.destroy()
    process.exit(0)
  }
  process.once('SIGINT', () => void stop())
  process.once('SIGTERM', () => void stop())
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error)
  process.exit(1)
})
