import { execFileSync } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { NewReel } from '@yodel/core'
import type { FastifyInstance } from 'fastify'
import pg from 'pg'
import { buildApp } from '../buildApp.js'
import { openDatabase } from '../db/dataSource.js'
import { closeServices, makeServices, type Services } from '../services.js'
import { readSettings } from '../settings.js'

/** A server on a database of its own in the real cluster that `npm test` starts, with a data folder of its own. */
export interface TestServer {
  readonly app: FastifyInstance
  readonly services: Services
  /** A folder inside an allowed root. */
  readonly root: string
  readonly dataDir: string
  /** Makes an empty reel in a show of its own: 24 fps from 01:00:00:00, one minute. @returns its id */
  makeReel(fields?: Partial<NewReel>): Promise<string>
  /** Waits until a job has ended and returns how. */
  settled(jobId: string): Promise<{ state: string; message: string; result: Record<string, unknown> | null }>
  close(): Promise<void>
}

/** Makes an empty database in the real cluster that `npm test` starts. @throws Error when run without one */
export async function freshDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  const cluster = process.env['YODEL_TEST_DATABASE_URL']
  if (!cluster) throw new Error('Run the tests with npm test: it starts the PostgreSQL that they need.')
  const name = `t_${randomBytes(6).toString('hex')}`
  const admin = new pg.Client(cluster)
  await admin.connect()
  await admin.query(`CREATE DATABASE ${name}`)
  const url = new URL(cluster)
  url.pathname = `/${name}`
  return {
    url: url.href,
    async drop() {
      await admin.query(`DROP DATABASE ${name} WITH (FORCE)`)
      await admin.end()
    },
  }
}

/** Starts a test server. @param env - Settings other than a test's @throws Error when run without a cluster */
export async function startTestServer(env: NodeJS.ProcessEnv = {}): Promise<TestServer> {
  const database = await freshDatabase()
  const base = mkdtempSync(path.join(tmpdir(), 'yodel-server-'))
  const root = path.join(base, 'sounds')
  const dataDir = path.join(base, 'data')
  for (const folder of [root, dataDir]) mkdirSync(folder)
  const settings = readSettings({
    YODEL_DATABASE_URL: database.url,
    YODEL_DATA_DIR: dataDir,
    YODEL_SOUND_ROOTS: root,
    YODEL_USER: 'Tester',
    ...env,
  })
  const db = await openDatabase(settings.databaseUrl)
  const services = makeServices(settings, db, { error: () => undefined, info: () => undefined } as never)
  const app = await buildApp(services, { web: base })
  services.jobs.start()
  return {
    app,
    services,
    root,
    dataDir,
    async makeReel(fields = {}) {
      const facts = { showId: null, showName: 'Show', name: 'Reel 1', rate: '24', lengthSeconds: 60 } as const
      const payload = { ...facts, firstTimecode: '01:00:00:00', ...fields }
      const answer = await app.inject({ method: 'POST', url: '/api/reels', payload })
      return answer.json<{ id: string }>().id
    },
    async settled(jobId) {
      for (;;) {
        const job = await services.jobs.find(jobId)
        if (!job) throw new Error(`no job ${jobId}`)
        if (job.state !== 'running' && job.state !== 'waiting') return job
        await new Promise((resolve) => setTimeout(resolve, 40))
      }
    },
    async close() {
      await app.close()
      await closeServices(services)
      await database.drop()
      rmSync(base, { recursive: true, force: true })
    },
  }
}

/** Makes a file with ffmpeg's own test sources. @param args - Everything between the program's name and the file. */
export function ffmpeg(file: string, ...args: string[]): string {
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args, file])
  return file
}
