import { stat } from 'node:fs/promises'
import path from 'node:path'
import { analysisSchema, guideChoiceSchema, lookingSchema, pictureSchema, plainText } from '@yodel/core'
import { z } from 'zod'
import { PictureEntity } from '../db/entities.js'
import type { PictureRow } from '../db/rows.js'
import { AppError } from '../errors.js'
import { uploadOf } from '../http/upload.js'
import { allowedPath } from '../media/paths.js'
import { analysisOf } from '../pictures/analysePicture.js'
import { growingOf } from '../pictures/growing.js'
import { PROXY_FILES } from '../pictures/makeProxy.js'
import { partLookedThrough } from '../pictures/lookingThrough.js'
import { pictureOf, takeFile, takeUpload, type PictureTaking } from '../pictures/pictures.js'
import { makePoster } from '../pictures/poster.js'
import type { Routes } from './route.js'

const BYTES = 'application/octet-stream'

const params = z.object({ id: z.string().regex(/^[\w-]{1,64}$/) })

/** `short=take`: also a movie whose file ends before its head says so. `look`: under which it can be asked how far it has been looked through. */
const takingQuery = z.object({
  short: z.enum(['refuse', 'take']).default('refuse'),
  look: z.uuid().nullable().default(null),
})

/** Movies and what is made from them. */
export const pictureRoutes: Routes = (app, { db, settings, media, jobs, roots }) => {
  const deps = { db, settings, media, jobs }
  const find = async (id: string): Promise<PictureRow> => {
    const row = await db.getRepository(PictureEntity).findOneBy({ id })
    if (!row) throw new AppError('NOT_FOUND', `There is no picture ${id}.`)
    return row
  }

  /** A file that was made from a movie. @throws AppError `NOT_FOUND` before anything is answered, so that the refusal is one */
  const madeFile = async (id: string, name: string): Promise<[name: string, folder: string]> => {
    const { name: movie } = await find(id)
    const folder = path.join(settings.dataDir, 'pictures', id)
    if (!(await stat(path.join(folder, name)).catch(() => null)))
      throw new AppError('NOT_FOUND', `${movie} is still being prepared, or has nothing there.`)
    return [name, folder]
  }

  const takingOf = ({ short, look }: z.infer<typeof takingQuery>): PictureTaking => ({
    ...deps,
    takeShort: short === 'take',
    look,
  })

  app.post(
    '/api/pictures',
    { schema: { querystring: takingQuery, response: { 201: pictureSchema } } },
    async (request, reply) =>
      reply.code(201).send(await takeUpload(takingOf(request.query), await uploadOf(request, 'movie'))),
  )

  app.post(
    '/api/pictures/pick',
    {
      schema: {
        querystring: takingQuery,
        body: z.object({ path: plainText(4000).min(1) }),
        response: { 201: pictureSchema },
      },
    },
    async (request, reply) => {
      const file = await allowedPath(request.body.path, roots.all)
      return reply.code(201).send(await takeFile(takingOf(request.query), file))
    },
  )

  app.get(
    '/api/pictures/looking/:look',
    { schema: { params: z.object({ look: z.uuid() }), response: { 200: lookingSchema } } },
    ({ params: { look } }) => ({ part: partLookedThrough(look) }),
  )

  app.put(
    '/api/pictures/:id/guides',
    { schema: { params, body: guideChoiceSchema, response: { 200: pictureSchema } } },
    async (request) => {
      const row = await find(request.params.id)
      const { heard, drawn } = request.body
      const most = row.tracks.length
      if (most === 0 || [...heard, drawn].some((track) => track >= most))
        throw new AppError('BAD_REQUEST', `${row.name} has ${most} sound tracks; another one was asked for.`)
      const choice = { heard: [...new Set(heard)].sort((a, b) => a - b), drawn }
      await db.getRepository(PictureEntity).update({ id: row.id }, choice)
      return pictureOf({ ...row, ...choice })
    },
  )

  app.get('/api/pictures/:id', { schema: { params, response: { 200: pictureSchema } } }, async (request) =>
    pictureOf(await find(request.params.id)),
  )

  app.get('/api/pictures/:id/poster', { schema: { params } }, async (request, reply) => {
    await makePoster(deps, (await find(request.params.id)).id)
    return reply.sendFile(...(await madeFile(request.params.id, PROXY_FILES.poster)))
  })

  app.get(
    '/api/pictures/:id/analysis',
    { schema: { params, response: { 200: analysisSchema } } },
    async (request) => {
      const row = await find(request.params.id)
      if (row.state !== 'ready') throw new AppError('NOT_FOUND', `${row.name} is still being prepared.`)
      return analysisOf(media, row)
    },
  )

  // While a picture is made, what is there of it: as many frames as the index has entries but one.
  app.get('/api/pictures/:id/index', { schema: { params } }, async (request, reply) => {
    const growing = growingOf(request.params.id)
    if (!growing) return reply.type(BYTES).sendFile(...(await madeFile(request.params.id, PROXY_FILES.index)))
    return reply.type(BYTES).send(Buffer.from(growing.entries().buffer))
  })

  app.get('/api/pictures/:id/frames', { schema: { params } }, async (request, reply) => {
    const { id } = request.params
    const made = await madeFile(id, growingOf(id) ? `${PROXY_FILES.video}.new` : PROXY_FILES.video)
    return reply.type(BYTES).sendFile(...made)
  })

  app.get(
    '/api/pictures/:id/sheets/:kind/:sheet',
    {
      schema: {
        params: params.extend({
          kind: z.enum(['strip', 'sparse']),
          sheet: z.coerce.number().int().min(1).max(100_000),
        }),
      },
    },
    async (request, reply) => {
      const { id, kind, sheet } = request.params
      const made = await madeFile(id, `${PROXY_FILES[kind]}-${sheet}.jpg`)
      return reply.header('cache-control', 'private, max-age=86400').sendFile(...made)
    },
  )
}
