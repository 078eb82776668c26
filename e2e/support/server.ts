import { spawn, type ChildProcess } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import { once } from 'node:events'
import { cpSync, existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import pg from 'pg'

const MAIN = fileURLToPath(new URL('../../apps/server/dist/main.js', import.meta.url))

/** The built server as a process of its own, on a database of its own, at a fixed address that survives its restarts. */
export interface RealServer {
  readonly url: string
  readonly databaseUrl: string
  readonly dataDir: string
  /** Milliseconds from the last start to the printed address. */
  readonly startedInMs: number
  /** Ends the process as a power cut would. */
  kill(): void
  start(): Promise<void>
  close(): Promise<void>
}

/** Where and with what one server runs. */
interface Place {
  readonly databaseUrl: string
  readonly dataDir: string
  readonly demo: boolean
  readonly roots: string
}

/** Starts the built server and waits for its address. @param port - 0 for any that is free */
async function run(
  { databaseUrl, dataDir, demo, roots }: Place,
  port: number,
): Promise<{ child: ChildProcess; port: number }> {
  const env = {
    YODEL_DATABASE_URL: databaseUrl,
    YODEL_DATA_DIR: dataDir,
    YODEL_PORT: String(port),
    YODEL_DEMO: demo ? '1' : '0',
    YODEL_SOUND_ROOTS: roots,
  }
  const child = spawn(process.execPath, [MAIN], {
    // With a channel, so that it ends with the tests or the bench that started it, however they end.
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    env: { ...process.env, ...env, YODEL_USER: 'Tester' },
  })
  const taken = await new Promise<number>((resolve, reject) => {
    child.stdout?.on('data', (piece: Buffer) => {
      const address = /Yodel is at http:\/\/127\.0\.0\.1:(\d+)/.exec(piece.toString())
      if (address) resolve(Number(address[1]))
    })
    child.on('close', (code) => reject(new Error(`the server ended with ${code}`)))
  })
  return { child, port: taken }
}

/** Name of the database in which a run of the tests keeps its demo. @param shared - Folder of the run */
export const seedName = (shared: string): string =>
  `seed_${createHash('sha1').update(shared).digest('hex').slice(0, 12)}`

/** The demo show is made once for a run: a database to copy, and a data folder of which only the sounds are used in place. */
async function seed(admin: pg.Client, urlOf: (name: string) => string, shared: string): Promise<string> {
  const dataDir = path.join(shared, 'seed')
  if (existsSync(dataDir)) return dataDir
  await admin.query(`CREATE DATABASE ${seedName(shared)}`)
  const { child, port } = await run(
    { databaseUrl: urlOf(seedName(shared)), dataDir, demo: true, roots: '' },
    0,
  )
  const stateOf = async (picture: string): Promise<string> =>
    ((await (await fetch(`http://127.0.0.1:${port}/api/pictures/${picture}`)).json()) as { state: string })
      .state
  for (const picture of ['demo-picture-1', 'demo-picture-2'])
    while ((await stateOf(picture)) !== 'ready') await new Promise((resolve) => setTimeout(resolve, 300))
  child.kill('SIGTERM')
  await once(child, 'close')
  return dataDir
}

/** Starts the built server. @param options.demo - With the demo show, which takes a minute or two the first time in a run, or empty. */
export async function realServer(options: { demo: boolean; roots?: string }): Promise<RealServer> {
  const cluster = process.env['YODEL_TEST_DATABASE_URL']
  if (!cluster)
    throw new Error('Run this with npm test or npm run bench: they start the PostgreSQL that is needed.')
  const urlOf = (database: string): string =>
    Object.assign(new URL(cluster), { pathname: `/${database}` }).href
  const name = `e_${randomBytes(6).toString('hex')}`
  const admin = new pg.Client(cluster)
  await admin.connect()
  const dataDir = mkdtempSync(path.join(tmpdir(), 'yodel-e2e-'))
  const shared = process.env['YODEL_TEST_SHARED']
  let roots = options.roots ?? ''
  let template = ''
  if (options.demo && shared) {
    const made = await seed(admin, urlOf, shared)
    const sounds = path.join(made, 'demo')
    cpSync(made, dataDir, { recursive: true, preserveTimestamps: true, filter: (file) => file !== sounds })
    roots = [roots, sounds].filter(Boolean).join(path.delimiter)
    template = ` TEMPLATE ${seedName(shared)}`
  }
  await admin.query(`CREATE DATABASE ${name}${template}`)
  const place: Place = { databaseUrl: urlOf(name), dataDir, demo: options.demo, roots }
  let child: ChildProcess | null = null
  let port = 0
  let startedInMs = 0
  const start = async (): Promise<void> => {
    const begun = performance.now()
    ;({ child, port } = await run(place, port))
    startedInMs = performance.now() - begun
  }
  await start()
  return {
    get url() {
      return `http://127.0.0.1:${port}`
    },
    databaseUrl: place.databaseUrl,
    dataDir,
    get startedInMs() {
      return startedInMs
    },
    kill: () => void child?.kill('SIGKILL'),
    start,
    async close() {
      child?.kill('SIGKILL')
      await admin.query(`DROP DATABASE ${name} WITH (FORCE)`)
      await admin.end()
      rmSync(dataDir, { recursive: true, force: true })
    },
  }
}
