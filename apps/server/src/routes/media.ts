import { PEAK_STEPS, plainText } from '@yodel/core'
import { z } from 'zod'
import { findSource } from '../media/findSource.js'
import type { Routes } from './route.js'

const params = z.object({ mediaId: plainText(120) })

/** Decoded sound and outlines, of recordings and of guides. */
export const mediaRoutes: Routes = (app, { db, media }) => {
  app.get(
    '/api/media/:mediaId/pcm/:chunk',
    { schema: { params: params.extend({ chunk: z.coerce.number().int().min(0) }) } },
    async (request, reply) => {
      const source = await findSource(db, request.params.mediaId)
      const bytes = await media.chunk(source, request.params.chunk)
      return reply
        .type('application/octet-stream')
        .header('x-channels', String(source.channels))
        .header('cache-control', 'private, max-age=60')
        .send(bytes)
    },
  )

  app.get(
    '/api/media/:mediaId/peaks/:level',
    {
      schema: {
        params: params.extend({
          level: z.coerce
            .number()
            .int()
            .min(0)
            .max(PEAK_STEPS.length - 1),
        }),
      },
    },
    async (request, reply) => {
      const bytes = await media.peaks(await findSource(db, request.params.mediaId), request.params.level)
      return reply.type('application/octet-stream').header('cache-control', 'private, max-age=60').send(bytes)
    },
  )
}
