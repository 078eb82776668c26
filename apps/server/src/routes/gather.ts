import { recordingsInUseSchema } from '@yodel/core'
import { z } from 'zod'
import { ReelEntity, ShowEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import { recordingsInUse } from '../turnover/gather/recordingsInUse.js'
import { byId as params, type Routes } from './route.js'

/** The recordings that a show plays: where they lie, and gathering them beside it. */
export const gatherRoutes: Routes = (app, services) => {
  const { db, jobs } = services
  const showOf = async (reelId: string): Promise<string> => {
    const reel = await db.getRepository(ReelEntity).findOneBy({ id: reelId })
    if (!reel) throw new AppError('REEL_MISSING', `There is no reel ${reelId}.`)
    return reel.showId
  }

  app.get(
    '/api/reels/:id/recordings',
    { schema: { params, response: { 200: recordingsInUseSchema } } },
    async ({ params: { id } }) => recordingsInUse(services, await showOf(id)),
  )

  app.post(
    '/api/reels/:id/gather',
    { schema: { params, response: { 202: z.object({ jobId: z.string() }) } } },
    async ({ params: { id } }, reply) => {
      const showId = await showOf(id)
      // Asked for from two tabs, it is done once.
      const [running] = (await db.query(
        `SELECT id FROM job WHERE kind = 'gather' AND payload->>'showId' = $1 AND state IN ('waiting', 'running', 'paused')`,
        [showId],
      )) as { id: string }[]
      if (running) return reply.code(202).send({ jobId: running.id })
      const { name } = await db.getRepository(ShowEntity).findOneByOrFail({ id: showId })
      const jobId = await jobs.add('gather', `Gathering the recordings of ${name}`, { showId })
      return reply.code(202).send({ jobId })
    },
  )
}
