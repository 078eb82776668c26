import path from 'node:path'
import { clipsEdl, cueListCsv, nameByRule, reelOf } from '@yodel/core'
import { z } from 'zod'
import { AppError } from '../errors.js'
import { loadDocument } from '../reels/reelStore.js'
import { soundPlaces } from '../sounds/soundRows.js'
import { bounceFile } from '../turnover/bounceReel.js'
import { attachment, type Routes } from './route.js'

const params = z.object({ id: z.string() })

/** What is handed over: lists and the mix. */
export const turnoverRoutes: Routes = (app, { db, media, jobs, clock }) => {
  const today = (): string => clock().toISOString().slice(0, 10)

  app.get('/api/reels/:id/cues.csv', { schema: { params } }, async (request, reply) => {
    const doc = await loadDocument(db, request.params.id)
    const reel = reelOf(doc)
    return reply
      .type('text/csv; charset=utf-8')
      .header('content-disposition', attachment(`${nameByRule(reel, 'cues', today())}.csv`))
      .send(cueListCsv(doc))
  })

  app.get('/api/reels/:id/clips.edl', { schema: { params } }, async (request, reply) => {
    const doc = await loadDocument(db, request.params.id)
    const reel = reelOf(doc)
    const ids = [...new Set([...doc.clip.values()].map((clip) => clip.soundId))]
    const files = new Map((await soundPlaces(db, ids)).map((place) => [place.id, path.basename(place.path)]))
    const edl = clipsEdl(doc, (id) => files.get(id) ?? id)
    return reply
      .type('text/plain; charset=utf-8')
      .header('content-disposition', attachment(`${nameByRule(reel, 'clips', today())}.edl`))
      .send(edl)
  })

  app.post(
    '/api/reels/:id/bounce',
    { schema: { params, response: { 202: z.object({ jobId: z.string() }) } } },
    async (request, reply) => {
      const reel = reelOf(await loadDocument(db, request.params.id))
      return reply
        .code(202)
        .send({ jobId: await jobs.add('bounce', `Bouncing ${reel.name}`, { reelId: request.params.id }) })
    },
  )

  app.get('/api/bounces/:id', { schema: { params: z.object({ id: z.uuid() }) } }, async (request, reply) => {
    const job = await jobs.find(request.params.id)
    if (job?.kind !== 'bounce' || job.state !== 'done')
      throw new AppError('NOT_FOUND', 'That mix is not there (any more); bounce the reel again.')
    const file = await bounceFile(media, job.id)
    return reply
      .type('audio/wav')
      .header('content-disposition', attachment(String(job.result?.['name'] ?? 'mix.wav')))
      .sendFile(path.basename(file), path.dirname(file))
  })
}
