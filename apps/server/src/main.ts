import { mkdir } from 'node:fs/promises'
import { buildApp } from './buildApp.js'
import { openDatabase } from './db/dataSource.js'
import { seedDemo } from './demo/seedDemo.js'
import { sweep } from './media/sweep.js'
import { explainDisk, reasonOf } from './errors.js'
import { runApart } from './processes/apart.js'
import { emptyBin } from './reels/throwAway.js'
import { closeServices, makeServices } from './services.js'
import { isLoopback, readSettings } from './settings.js'
import { wakeShelves } from './sounds/reindex.js'

/** What this program ends with when starting it again would not help; tools/lib/serve.mjs goes by it. */
const CANT_START = 78

const DAY_MS = 24 * 3600 * 1000

/** Whoever has just started Yodel wants to work first. */
const VERIFY_AFTER_MS = 10_000

/** Starts Yodel with the settings of the environment and stops it on a signal, or when the process that started it has ended. */
async function main(): Promise<void> {
  const settings = readSettings(process.env)
  await mkdir(settings.dataDir, { recursive: true }).catch((error: unknown) => {
    throw new Error(
      `Yodel can't write into its data folder ${settings.dataDir}: ${reasonOf(error)}. Free it, or name another one with YODEL_DATA_DIR.`,
    )
  })
  const db = await openDatabase(settings.databaseUrl).catch((error: unknown) => {
    throw new Error(`Yodel can't reach its database (YODEL_DATABASE_URL): ${reasonOf(error)}`)
  })
  const services = makeServices(settings, db, {
    error: (line: unknown) => console.error(line),
    info: () => undefined,
  } as never)
  // Before anybody can send anything.
  await sweep(services, services.clock())
  await emptyBin(services, services.clock())
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
  if (!isLoopback(settings.host))
    console.log(
      'Everybody in this network can open it, and read, change and delete all of it: there is no sign-in yet.',
    )
  process.send?.({ url: address })
  setTimeout(() => void sayDifferences(settings.databaseUrl), VERIFY_AFTER_MS).unref()
  const emptying = setInterval(
    () => void emptyBin(services, services.clock()).catch((error: unknown) => console.error(reasonOf(error))),
    DAY_MS,
  )
  emptying.unref()
  let stopping = false
  const stop = async (): Promise<void> => {
    if (stopping) return
    stopping = true
    await app.close()
    await closeServices(services)
    process.exit(0)
  }
  for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'] as const) process.on(signal, () => void stop())
}

/** Says where the rows of a reel are not what its log says; where they are, nothing. */
async function sayDifferences(databaseUrl: string): Promise<void> {
  const limits = { seconds: 3600, what: 'Comparing rows and logs' }
  try {
    for (const line of await runApart<string[]>('reels/verifyApart', { databaseUrl }, limits))
      console.error(`The rows and the log differ: ${line}`)
  } catch (error) {
    console.error(`The rows could not be compared with the logs: ${reasonOf(error)}`)
  }
}

main().catch((raw: unknown) => {
  const error = explainDisk(raw, 'what a start needs')
  console.error(error instanceof Error ? error.message : error)
  process.exit(CANT_START)
})
