import path from 'node:path'
import { plainText, shelfEditSchema, shelfSchema } from '@yodel/core'
import { z } from 'zod'
import { ShelfEntity } from '../db/entities.js'
import type { ShelfRow } from '../db/rows.js'
import { AppError } from '../errors.js'
import { uploadOf } from '../http/upload.js'
import { allowedPath, isFolder } from '../media/paths.js'
import { droppedShelf, isThere, saveDropped } from '../sounds/dropped.js'
import { reindex } from '../sounds/reindex.js'
import { editShelf, listShelves, makeShelf } from '../sounds/shelves.js'
import { byId as params, DONE, type Routes } from './route.js'

const droppedQuery = z.object({
  path: plainText(1000).min(1),
  size: z.coerce.number().int().min(0),
  modified: z.coerce.number().int().min(0).max(8.64e15),
})

/** Folders of recordings: added, indexed, described. */
export const shelfRoutes: Routes = (app, services) => {
  const { db, settings, roots } = services

  app.get('/api/shelves', { schema: { response: { 200: z.array(shelfSchema) } } }, (request) =>
    listShelves(db, request.person),
  )

  app.post(
    '/api/shelves',
    {
      schema: {
        body: z.object({
          path: plainText(4000).min(1),
          name: plainText(200).default(''),
          shared: z.boolean().default(true),
        }),
        response: { 201: z.object({ id: z.string() }) },
      },
    },
    async (request, reply) => {
      const root = await allowedPath(request.body.path, roots.all)
      if (!(await isFolder(root)))
        throw new AppError(
          'PATH_MISSING',
          `${request.body.path} is a file; a shelf is a folder of recordings.`,
        )
      const shelf = await makeShelf(
        db,
        root,
        request.body.name || path.basename(root),
        request.person,
        request.body.shared,
      )
      await reindex(services, shelf.id)
      return reply.code(201).send({ id: shelf.id })
    },
  )

  // One recording of what was dropped into the browser; what is there already is not sent again.
  app.get(
    '/api/shelves/dropped',
    { schema: { querystring: droppedQuery, response: { 200: z.object({ there: z.boolean() }) } } },
    async ({ query }) => ({ there: await isThere(settings, query) }),
  )

  app.post(
    '/api/shelves/dropped',
    { schema: { querystring: droppedQuery.omit({ size: true }), response: DONE } },
    async (request, reply) => {
      await saveDropped(settings, request.query, await uploadOf(request, 'recording'))
      return reply.code(204).send(null)
    },
  )

  app.post(
    '/api/shelves/dropped/index',
    { schema: { response: { 200: z.object({ jobId: z.string() }) } } },
    async (request) => ({
      jobId: await reindex(services, (await droppedShelf(db, settings, request.person)).id),
    }),
  )

  app.patch(
    '/api/shelves/:id',
    { schema: { params, body: shelfEditSchema, response: { 204: z.null() } } },
    async (request, reply) => {
      await editShelf(db, (await ownShelf(request.params.id, request.person)).id, request.body)
      return reply.code(204).send(null)
    },
  )

  /** Takes a shelf and its sounds out of the index; its folder stays as it is. Placed clips keep their names and say that their file is missing. */
  app.delete(
    '/api/shelves/:id',
    { schema: { params, response: { 204: z.null() } } },
    async (request, reply) => {
      const shelf = await ownShelf(request.params.id, request.person)
      if (shelf.jobId !== null) await services.jobs.cancel(shelf.jobId)
      await db.getRepository(ShelfEntity).delete({ id: shelf.id })
      return reply.code(204).send(null)
    },
  )

  app.post(
    '/api/shelves/:id/index',
    { schema: { params, response: { 200: z.object({ jobId: z.string() }) } } },
    async (request) => ({
      jobId: await reindex(services, (await ownShelf(request.params.id, request.person)).id),
    }),
  )

  async function ownShelf(id: string, person: string): Promise<ShelfRow> {
    const shelf = await db.getRepository(ShelfEntity).findOneBy({ id })
    if (!shelf || (!shelf.shared && shelf.owner !== person))
      throw new AppError('NOT_FOUND', `There is no shelf ${id}; it may have been taken out.`)
    return shelf
  }
}
