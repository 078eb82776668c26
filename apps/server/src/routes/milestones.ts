import { milestoneSchema, newMilestoneSchema, reelAtSchema } from '@yodel/core'
import { z } from 'zod'
import { listMilestones, makeMilestone, reelAt } from '../reels/milestones.js'
import { byId as params, logNumber, type Routes } from './route.js'

/** Milestones: names for moments of a reel, and the reel as it was. */
export const milestoneRoutes: Routes = (app, { db, clock }) => {
  app.get(
    '/api/reels/:id/milestones',
    { schema: { params, response: { 200: z.array(milestoneSchema) } } },
    (request) => listMilestones(db, request.params.id),
  )

  app.post(
    '/api/reels/:id/milestones',
    { schema: { params, body: newMilestoneSchema, response: { 201: milestoneSchema } } },
    async ({ params: { id }, body, person }, reply) =>
      reply.code(201).send(await makeMilestone(db, id, body.name, person, clock())),
  )

  app.get(
    '/api/reels/:id/at/:seq',
    {
      schema: {
        params: params.extend({ seq: logNumber.min(1) }),
        response: { 200: reelAtSchema },
      },
    },
    (request) => reelAt(db, request.params.id, request.params.seq),
  )
}
