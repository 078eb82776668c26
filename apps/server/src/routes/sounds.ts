import { createHash } from 'node:crypto'
import path from 'node:path'
import { shelfSchema, soundPageSchema, soundSchema, type Shelf } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { z } from 'zod'
import { ShelfEntity, type ShelfRow } from '../db/entities.js'
import { AppError } from '../errors.js'
import { allowedPath, isFolder } from '../media/paths.js'
import type { Services } from '../services.js'
import { searchSounds, soundsByIds } from '../sounds/searchSounds.js'
import type { Routes } from './route.js'

/** Recordings and the shelves they stand on. */
export const soundRoutes: Routes = (app, services) => {
  const { db, settings } = services

  app.get(
    '/api/sounds',
    { schema: { querystring: z.object({ q: z.string().max(200).default(''), cursor: z.string().max(20).optional() }), response: { 200: soundPageSchema } } },
    (request) => searchSounds(db, request.query.q, request.query.cursor ?? null),
  )

  app.post('/api/sounds/by-ids', { schema: { body: z.object({ ids: z.array(z.string()).max(20_000) }), response: { 200: z.array(soundSchema) } } }, (request) =>
    soundsByIds(db, request.body.ids),
  )

  app.get('/api/shelves', { schema: { response: { 200: z.array(shelfSchema) } } }, () => listShelves(db))

  app.post(
    '/api/shelves',
    { schema: { body: z.object({ path: z.string().min(1).max(4000), name: z.string().max(200).default('') }), response: { 201: z.object({ id: z.string() }) } } },
    async (request, reply) => {
      const root = await allowedPath(request.body.path, settings.soundRoots)
      if (!(await isFolder(root))) throw new AppError('PATH_MISSING', `${request.body.path} is a file; a shelf is a folder of recordings.`)
      const shelf = await makeShelf(db, root, request.body.name || path.basename(root))
      await startIndexing(services, shelf)
      return reply.code(201).send({ id: shelf.id })
    },
  )

  app.post('/api/shelves/:id/index', { schema: { params: z.object({ id: z.string() }), response: { 200: z.object({ jobId: z.string() }) } } }, async (request) => {
    const shelf = await db.getRepository(ShelfEntity).findOneBy({ id: request.params.id })
    if (!shelf) throw new AppError('NOT_FOUND', `There is no shelf ${request.params.id}.`)
    return { jobId: await startIndexing(services, shelf) }
  })
}

/** Makes a folder a shelf, or finds the shelf it is already. */
export async function makeShelf(db: DataSource, root: string, name: string): Promise<ShelfRow> {
  const id = createHash('sha256').update(root).digest('hex').slice(0, 24)
  await db.query('INSERT INTO shelf (id, name, root) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', [id, name, root])
  return db.getRepository(ShelfEntity).findOneByOrFail({ root })
}

/** Starts indexing a shelf; while that is under way already, its job is the answer. */
async function startIndexing({ db, jobs }: Services, shelf: ShelfRow): Promise<string> {
  const running = shelf.jobId === null ? null : await jobs.find(shelf.jobId)
  if (running && (running.state === 'waiting' || running.state === 'running')) return running.id
  const jobId = await jobs.add('index', `Indexing ${shelf.name}`, { shelfId: shelf.id })
  await db.getRepository(ShelfEntity).update({ id: shelf.id }, { jobId })
  return jobId
}

async function listShelves(db: DataSource): Promise<Shelf[]> {
  return (await db.query(
    `SELECT h.id, h.name, h.root, h.problems, h.job_id AS "jobId", (SELECT count(*)::int FROM sound s WHERE s.shelf_id = h.id AND NOT s.missing) AS sounds
     FROM shelf h ORDER BY h.name`,
  )) as Shelf[]
}
