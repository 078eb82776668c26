import { spawn, type ChildProcess } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { cpSync, existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import pg from 'pg'

const MAIN = fileURLToPath(new URL('../../apps/server/dist/main.js', import.meta.url))

/** With their times of change, by which they are known. */
const COPY = { recursive: true, preserveTimestamps: true } as const

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

/** Starts the built server. @param options.demo - With the demo show (takes about a minute) or empty. */
export async function realServer(options: { demo: boolean; roots?: string }): Promise<RealServer> {
  const cluster = process.env['YODEL_TEST_DATABASE_URL']
  if (!cluster) throw new Error('Run this with npm test or npm run bench: they start the PostgreSQL that is needed.')
  const name = `e_${randomBytes(6).toString('hex')}`
  const admin = new pg.Client(cluster)
  await admin.connect()
  await admin.query(`CREATE DATABASE ${name}`)
  const database = new URL(cluster)
  database.pathname = `/${name}`
  const dataDir = mkdtempSync(path.join(tmpdir(), 'yodel-e2e-'))
  const shared = process.env['YODEL_TEST_SHARED']
  const sounds = shared && options.demo ? path.join(shared, 'demo') : null
  if (sounds && existsSync(sounds)) cpSync(sounds, path.join(dataDir, 'demo'), COPY)
  let child: ChildProcess | null = null
  let port = 0
  let startedInMs = 0
  const start = async (): Promise<void> => {
    const begun = performance.now()
    child = spawn(process.execPath, [MAIN], {
      stdio: ['ignore', 'pipe', 'inherit'],
      env: {
        ...process.env,
        YODEL_DATABASE_URL: database.href,
        YODEL_DATA_DIR: dataDir,
        YODEL_PORT: String(port),
        YODEL_DEMO: options.demo ? '1' : '0',
        YODEL_SOUND_ROOTS: options.roots ?? '',
        YODEL_USER: 'Tester',
      },
    })
    port = await new Promise<number>((resolve, reject) => {
      child?.stdout?.on('data', (piece: Buffer) => {
        const address = /Yodel is at http:\/\/127\.0\.0\.1:(\d+)/.exec(piece.toString())
        if (address) resolve(Number(address[1]))
      })
      child?.on('close', (code) => reject(new Error(`the server ended with ${code}`)))
    })
    startedInMs = performance.now() - begun
  }
  await start()
  // The demo's sounds are the same each time: they are made by the first server of a run only.
  if (sounds && !existsSync(sounds)) cpSync(path.join(dataDir, 'demo'), sounds, COPY)
  return {
    get url() {
      return `http://127.0.0.1:${port}`
    },
    databaseUrl: database.href,
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
