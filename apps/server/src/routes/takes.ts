import { openTakeSchema, soundSchema, takeAboutSchema, takeEndSchema } from '@yodel/core'
import { z } from 'zod'
import { AppError } from '../errors.js'
import { keepTake } from '../record/keepTake.js'
import { showOf } from '../shows/keptWithShow.js'
import { byId, DONE, type Routes } from './route.js'

const byTake = z.object({ id: z.uuid() })
const from = z.object({
  /** Number of the first sample of each channel that is sent. */
  from: z.coerce
    .number()
    .int()
    .min(0)
    .max(2 ** 40),
})

/** Takes while they are recorded, and how they become recordings. */
export const takeRoutes: Routes = (app, services) => {
  const { takes, clock, db } = services
  app.addContentTypeParser('application/octet-stream', { parseAs: 'buffer' }, (_request, body, done) =>
    done(null, body),
  )

  app.post(
    '/api/takes',
    { schema: { body: takeAboutSchema, response: DONE } },
    async ({ body, person }, reply) => {
      // A reel that is gone takes no takes.
      await showOf(db, body.reelId)
      await takes.begin(body, person, clock())
      return reply.code(204).send(null)
    },
  )
  app.post(
    '/api/takes/:id/samples',
    {
      schema: {
        params: byTake,
        querystring: from,
        response: { 200: z.object({ length: z.number() }) },
      },
    },
    async ({ params, query, body }) => {
      if (!Buffer.isBuffer(body))
        throw new AppError('BAD_REQUEST', 'Send samples as application/octet-stream.')
      return { length: await takes.append(params.id, query.from, body) }
    },
  )
  app.post(
    '/api/takes/:id/end',
    { schema: { params: byTake, body: takeEndSchema, response: { 200: soundSchema } } },
    ({ params, body }) => keepTake(services, params.id, body),
  )
  app.delete('/api/takes/:id', { schema: { params: byTake, response: DONE } }, async ({ params }, reply) => {
    await takes.forget(params.id)
    return reply.code(204).send(null)
  })
  app.get(
    '/api/reels/:id/takes',
    { schema: { params: byId, response: { 200: z.array(openTakeSchema) } } },
    ({ params }) => takes.open(params.id, clock()),
  )
}
