import path from 'node:path'
import {
  clipsEdl,
  cueListCsv,
  currentCut,
  documentOf,
  nameByRule,
  recordsOf,
  reelOf,
  turnoverFactsSchema,
  type ReelDocument,
} from '@yodel/core'
import type { FastifyReply } from 'fastify'
import { z } from 'zod'
import { runApart } from '../processes/apart.js'
import { PictureEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import { PROXY_FILES } from '../pictures/makeProxy.js'
import { pictureFolder, pictureOf } from '../pictures/pictures.js'
import { reelAt } from '../reels/milestones.js'
import { loadDocument } from '../reels/reelStore.js'
import type { Services } from '../services.js'
import { soundPlaces } from '../sounds/soundRows.js'
import { gatherFacts } from '../turnover/gatherFacts.js'
import { bounceFile } from '../turnover/bounceReel.js'
import type { PdfPicture } from '../turnover/cuePdf.js'
import type { PaperOrder } from '../turnover/writePaper.js'
import { attachment, byId as params, logNumber, type Routes } from './route.js'

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'
const PAPER_LIMITS = { seconds: 120, what: 'Paper of so many cues' }
const pdfQuery = z.object({
  thumbnails: z.enum(['0', '1']).default('0'),
  /** Number of the log up to which the reel is printed; the present one when absent. */
  at: logNumber.min(1).optional(),
})

/** What is handed over: lists, paper and the mix. */
export const turnoverRoutes: Routes = (app, services) => {
  const { db, media, jobs, clock } = services
  const today = (): string => clock().toISOString().slice(0, 10)
  const write = async (order: PaperOrder): Promise<Buffer> => {
    return Buffer.from(await runApart<Uint8Array>('turnover/writePaper', order, PAPER_LIMITS))
  }
  /** Sends a list of a reel under a name by the reel's rule. */
  const send = (reply: FastifyReply, doc: ReelDocument, what: string, ending: string, type: string) =>
    reply
      .type(type)
      .header('content-disposition', attachment(`${nameByRule(reelOf(doc), what, today())}.${ending}`))

  app.get('/api/reels/:id/cues.csv', { schema: { params } }, async (request, reply) => {
    const doc = await loadDocument(db, request.params.id)
    return send(reply, doc, 'cues', 'csv', 'text/csv; charset=utf-8').send(cueListCsv(doc))
  })

  app.get('/api/reels/:id/cues.xlsx', { schema: { params } }, async (request, reply) => {
    const doc = await loadDocument(db, request.params.id)
    return send(reply, doc, 'cues', 'xlsx', XLSX).send(await write({ records: recordsOf(doc), kind: 'xlsx' }))
  })

  app.get(
    '/api/reels/:id/cues.pdf',
    { schema: { params, querystring: pdfQuery } },
    async ({ params: { id }, query: { thumbnails, at } }, reply) => {
      const doc =
        at === undefined ? await loadDocument(db, id) : documentOf((await reelAt(db, id, at)).records)
      const pictureId = currentCut(doc)?.pictureId ?? null
      const options = {
        date: today(),
        thumbnails: thumbnails === '1' ? await pdfPicture(services, pictureId) : null,
      }
      const pdf = await write({ records: recordsOf(doc), kind: 'pdf', options })
      return send(reply, doc, 'cues', 'pdf', 'application/pdf').send(pdf)
    },
  )

  app.get('/api/reels/:id/clips.edl', { schema: { params } }, async (request, reply) => {
    const doc = await loadDocument(db, request.params.id)
    const ids = [...new Set([...doc.clip.values()].map((clip) => clip.soundId))]
    const files = new Map((await soundPlaces(db, ids)).map((place) => [place.id, path.basename(place.path)]))
    const edl = clipsEdl(doc, (id) => files.get(id) ?? id)
    return send(reply, doc, 'clips', 'edl', 'text/plain; charset=utf-8').send(edl)
  })

  app.get(
    '/api/reels/:id/facts',
    { schema: { params, response: { 200: turnoverFactsSchema } } },
    async (request) => gatherFacts({ db, media }, await loadDocument(db, request.params.id)),
  )

  app.post(
    '/api/reels/:id/bounce',
    { schema: { params, response: { 202: z.object({ jobId: z.string() }) } } },
    async ({ params: { id } }, reply) => {
      const { name } = reelOf(await loadDocument(db, id))
      return reply.code(202).send({ jobId: await jobs.add('bounce', `Bouncing ${name}`, { reelId: id }) })
    },
  )

  app.get('/api/bounces/:id', { schema: { params: z.object({ id: z.uuid() }) } }, async (request, reply) => {
    const job = await jobs.find(request.params.id)
    if (job?.kind !== 'bounce' || job.state !== 'done') {
      throw new AppError('NOT_FOUND', 'That mix is not there (any more); bounce the reel again.')
    }
    const file = await bounceFile(media, job.id)
    return reply
      .type('audio/wav')
      .header('content-disposition', attachment(String(job.result?.['name'] ?? 'mix.wav')))
      .sendFile(path.basename(file), path.dirname(file))
  })
}

/** Where thumbnails for paper come from; null while the picture is not ready. */
async function pdfPicture(
  { db, media }: Pick<Services, 'db' | 'media'>,
  pictureId: string | null,
): Promise<PdfPicture | null> {
  const row = pictureId === null ? null : await db.getRepository(PictureEntity).findOneBy({ id: pictureId })
  if (row?.state !== 'ready') return null
  const folder = await pictureFolder(media, row.id)
  return {
    picture: pictureOf(row),
    sheets: path.join(folder, `${PROXY_FILES.strip}-`),
  }
}
