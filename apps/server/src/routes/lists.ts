import path from 'node:path'
import {
  clipsEdl,
  cueListCsv,
  currentCut,
  documentOf,
  LIST_GROUPS,
  nameByRule,
  PAPERS,
  plainText,
  recordsOf,
  reelOf,
  sheetPaperSchema,
  type ListedAs,
  type PaperSize,
  type ReelDocument,
  type SheetPaper,
} from '@yodel/core'
import type { FastifyReply } from 'fastify'
import { z } from 'zod'
import { PictureEntity } from '../db/entities.js'
import { PROXY_FILES } from '../pictures/makeProxy.js'
import { pictureFolder, pictureOf } from '../pictures/pictures.js'
import { reelAt } from '../reels/milestones.js'
import { loadDocument } from '../reels/reelStore.js'
import type { Services } from '../services.js'
import { soundPlaces } from '../sounds/soundRows.js'
import { writePaper } from '../turnover/make/writeLists.js'
import type { PdfPicture } from '../turnover/paper/cuePdf.js'
import { attachment, byId as params, logNumber, type Routes } from './route.js'

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'
/** Number of the log up to which the reel is printed; the present one when absent. */
const at = logNumber.min(1).optional()
const group = z.enum(LIST_GROUPS).optional()
const pdfQuery = z.object({ thumbnails: z.enum(['0', '1']).default('0'), group, at })
/** Which columns, by commas, and what the cues stand together by. */
const listQuery = z.object({ columns: plainText(400).optional(), group })
const listedAs = ({ columns, group: by }: z.infer<typeof listQuery>): ListedAs => ({
  columns: columns?.split(',') ?? null,
  group: by ?? null,
})
const paperQuery = z.object({
  size: z.enum(Object.keys(PAPERS) as [PaperSize, ...PaperSize[]]).default('A4'),
  turned: z.enum(['0', '1']).default('0'),
  tracks: z.coerce.number().pipe(sheetPaperSchema.shape.tracks).default(6),
  way: sheetPaperSchema.shape.way.default('packed'),
  seconds: z.coerce.number().pipe(sheetPaperSchema.shape.seconds).default(60),
  at,
})

/** Lists and paper of a reel, as it stands or as it was. */
export const listRoutes: Routes = (app, services) => {
  const { db, clock } = services
  const today = (): string => clock().toISOString().slice(0, 10)
  /** Sends a list of a reel under a name by the reel's rule. */
  const send = (reply: FastifyReply, doc: ReelDocument, what: string, ending: string, type: string) =>
    reply
      .type(type)
      .header('content-disposition', attachment(`${nameByRule(reelOf(doc), what, today())}.${ending}`))
  const docAt = async (id: string, seq: number | undefined): Promise<ReelDocument> =>
    seq === undefined ? loadDocument(db, id) : documentOf((await reelAt(db, id, seq)).records)

  const asked = { schema: { params, querystring: listQuery } }
  app.get('/api/reels/:id/cues.csv', asked, async ({ params: { id }, query }, reply) => {
    const doc = await loadDocument(db, id)
    const csv = cueListCsv(doc, listedAs(query))
    return send(reply, doc, 'cues', 'csv', 'text/csv; charset=utf-8').send(csv)
  })

  app.get('/api/reels/:id/cues.xlsx', asked, async ({ params: { id }, query }, reply) => {
    const doc = await loadDocument(db, id)
    const sheet = await writePaper({ records: recordsOf(doc), kind: 'xlsx', as: listedAs(query) })
    return send(reply, doc, 'cues', 'xlsx', XLSX).send(sheet)
  })

  app.get(
    '/api/reels/:id/cues.pdf',
    { schema: { params, querystring: pdfQuery } },
    async ({ params: { id }, query }, reply) => {
      const doc = await docAt(id, query.at)
      const pictureId = currentCut(doc)?.pictureId ?? null
      const thumbnails = query.thumbnails === '1' ? await pdfPicture(services, pictureId) : null
      const options = { date: today(), thumbnails, group: query.group ?? null }
      const pdf = await writePaper({ records: recordsOf(doc), kind: 'pdf', options })
      return send(reply, doc, 'cues', 'pdf', 'application/pdf').send(pdf)
    },
  )

  app.get(
    '/api/reels/:id/mix.pdf',
    { schema: { params, querystring: paperQuery } },
    async ({ params: { id }, query }, reply) => {
      const doc = await docAt(id, query.at)
      const options = { paper: paperOf(query), date: today() }
      const pdf = await writePaper({ records: recordsOf(doc), kind: 'mix', options })
      return send(reply, doc, 'mix cue sheet', 'pdf', 'application/pdf').send(pdf)
    },
  )

  // The same boxes for the screen: a DrawnSheet.
  app.get(
    '/api/reels/:id/mix.json',
    { schema: { params, querystring: paperQuery } },
    async ({ params: { id }, query }, reply) => {
      const options = { paper: paperOf(query), date: today() }
      const records = recordsOf(await docAt(id, query.at))
      return reply.type('application/json').send(await writePaper({ records, kind: 'drawn', options }))
    },
  )

  app.get('/api/reels/:id/clips.edl', { schema: { params } }, async (request, reply) => {
    const doc = await loadDocument(db, request.params.id)
    const ids = [...new Set([...doc.clip.values()].map((clip) => clip.soundId))]
    const files = new Map((await soundPlaces(db, ids)).map((place) => [place.id, path.basename(place.path)]))
    const edl = clipsEdl(doc, ({ soundId, recorded }) => ({
      ...{ path: files.get(soundId) ?? soundId, timeReference: 0, from: 0, length: recorded, sha256: '' },
    }))
    return send(reply, doc, 'clips', 'edl', 'text/plain; charset=utf-8').send(edl)
  })
}

const paperOf = ({ turned, size, tracks, way, seconds }: z.infer<typeof paperQuery>): SheetPaper => ({
  ...{ size, tracks, way, seconds },
  landscape: turned === '1',
})

/** Where thumbnails for paper come from; null while the picture is not ready. */
async function pdfPicture(
  { db, media }: Pick<Services, 'db' | 'media'>,
  pictureId: string | null,
): Promise<PdfPicture | null> {
  const row = pictureId === null ? null : await db.getRepository(PictureEntity).findOneBy({ id: pictureId })
  if (row?.state !== 'ready') return null
  const folder = await pictureFolder(media, row.id)
  return { picture: pictureOf(row), sheets: path.join(folder, `${PROXY_FILES.strip}-`) }
}
