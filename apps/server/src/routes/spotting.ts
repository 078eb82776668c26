import path from 'node:path'
import {
  currentCut,
  documentOf,
  milestoneSchema,
  nameByRule,
  newMilestoneSchema,
  readSheetSchema,
  reelAtSchema,
  reelOf,
  watchedSchema,
  watchSchema,
} from '@yodel/core'
import { z } from 'zod'
import { PictureEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import { PROXY_FILES } from '../pictures/makeProxy.js'
import { pictureFolder, pictureOf } from '../pictures/pictures.js'
import { listMilestones, makeMilestone, reelAt } from '../reels/milestones.js'
import { loadDocument } from '../reels/reelStore.js'
import { addWatched, listWatched } from '../reels/watched.js'
import { readUpload } from '../sheets/readUpload.js'
import { cuePdf, type PdfPicture } from '../sheets/writePdf.js'
import { cueWorkbook } from '../sheets/writeWorkbook.js'
import { attachment, type Routes } from './route.js'

const params = z.object({ id: z.string() })

/** Milestones, watched stretches, and sheets that come in and go out. */
export const spottingRoutes: Routes = (app, { db, settings, media, clock }) => {
  const today = (): string => clock().toISOString().slice(0, 10)

  app.get(
    '/api/reels/:id/milestones',
    { schema: { params, response: { 200: z.array(milestoneSchema) } } },
    (request) => listMilestones(db, request.params.id),
  )

  app.post(
    '/api/reels/:id/milestones',
    { schema: { params, body: newMilestoneSchema, response: { 201: milestoneSchema } } },
    async (request, reply) =>
      reply
        .code(201)
        .send(await makeMilestone(db, request.params.id, request.body.name, settings.user, clock())),
  )

  app.get(
    '/api/reels/:id/at/:seq',
    {
      schema: {
        params: params.extend({ seq: z.coerce.number().int().min(1) }),
        response: { 200: reelAtSchema },
      },
    },
    (request) => reelAt(db, request.params.id, request.params.seq),
  )

  app.get(
    '/api/reels/:id/watched',
    { schema: { params, response: { 200: z.array(watchedSchema) } } },
    (request) => listWatched(db, request.params.id),
  )

  app.post(
    '/api/reels/:id/watched',
    { schema: { params, body: watchSchema, response: { 200: z.array(watchedSchema) } } },
    (request) => addWatched(db, request.params.id, settings.user, request.body),
  )

  app.post(
    '/api/reels/:id/sheet',
    { schema: { params, response: { 200: readSheetSchema } } },
    async (request) => {
      const reel = reelOf(await loadDocument(db, request.params.id))
      const part = await request.file()
      if (!part)
        throw new AppError('BAD_REQUEST', 'No sheet came with the upload; choose a file and send it again.')
      return readUpload(path.basename(part.filename || 'sheet'), part.file, reel)
    },
  )

  app.get('/api/reels/:id/cues.xlsx', { schema: { params } }, async (request, reply) => {
    const doc = await loadDocument(db, request.params.id)
    return reply
      .type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet')
      .header('content-disposition', attachment(`${nameByRule(reelOf(doc), 'cues', today())}.xlsx`))
      .send(await cueWorkbook(doc))
  })

  app.get(
    '/api/reels/:id/cues.pdf',
    {
      schema: {
        params,
        querystring: z.object({
          thumbnails: z.enum(['0', '1']).default('0'),
          at: z.coerce.number().int().min(1).optional(),
        }),
      },
    },
    async (request, reply) => {
      const { thumbnails, at } = request.query
      const doc =
        at === undefined
          ? await loadDocument(db, request.params.id)
          : documentOf((await reelAt(db, request.params.id, at)).records)
      const pdf = await cuePdf(doc, {
        date: today(),
        thumbnails: thumbnails === '1' ? await pdfPicture(currentCut(doc)?.pictureId ?? null) : null,
      })
      return reply
        .type('application/pdf')
        .header('content-disposition', attachment(`${nameByRule(reelOf(doc), 'cues', today())}.pdf`))
        .send(pdf)
    },
  )

  async function pdfPicture(pictureId: string | null): Promise<PdfPicture | null> {
    const row = pictureId === null ? null : await db.getRepository(PictureEntity).findOneBy({ id: pictureId })
    if (row?.state !== 'ready') return null
    const folder = await pictureFolder(media, row.id)
    return {
      picture: pictureOf(row),
      sheet: (number) => path.join(folder, `${PROXY_FILES.strip}-${number}.jpg`),
    }
  }
}
