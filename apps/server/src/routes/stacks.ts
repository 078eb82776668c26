import {
  foundLayersSchema,
  MOST_VARIATIONS,
  plainText,
  stackPlanSchema,
  variationSchema,
  type StackPlan,
} from '@yodel/core'
import { z } from 'zod'
import { AppError } from '../errors.js'
import { madeShelf } from '../made/madeShelf.js'
import { drop, keep, listKept } from '../shows/keptWithShow.js'
import { findLayers } from '../stacks/findLayers.js'
import { planOf } from '../stacks/writeStacks.js'
import { byId, DONE, type Routes } from './route.js'

const one = byId.extend({ plan: z.uuid() })
const writing = z.object({
  variations: z.array(variationSchema).min(1).max(MOST_VARIATIONS),
  /** Id of the track through whose treatment they go; null for none. */
  through: plainText(64).nullable(),
})

/** Plans by which the stacks of a show are made, what their layers find, and writing variations as recordings. */
export const stackRoutes: Routes = (app, services) => {
  const { db, jobs, clock } = services

  app.get(
    '/api/reels/:id/plans',
    { schema: { params: byId, response: { 200: z.array(stackPlanSchema) } } },
    async ({ params }) =>
      (await listKept<StackPlan>(db, 'stack_plan', params.id)).sort((a, b) =>
        a.name.localeCompare(b.name, 'en'),
      ),
  )
  app.put(
    '/api/reels/:id/plans/:plan',
    { schema: { params: one, body: stackPlanSchema, response: { 200: stackPlanSchema } } },
    ({ params, body }) => {
      if (body.id !== params.plan)
        throw new AppError('BAD_REQUEST', 'The plan is another one than the address names.')
      return keep(db, 'stack_plan', params.id, body)
    },
  )
  app.delete(
    '/api/reels/:id/plans/:plan',
    { schema: { params: one, response: DONE } },
    async ({ params }, reply) => {
      await drop(db, 'stack_plan', params.id, params.plan)
      return reply.code(204).send(null)
    },
  )
  app.get(
    '/api/reels/:id/plans/:plan/found',
    { schema: { params: one, response: { 200: foundLayersSchema } } },
    async ({ params, person }) => {
      const plan = await planOf(db, params.id, params.plan)
      const made = (await madeShelf(services, params.id))?.id ?? null
      return findLayers({ db, reelId: params.id, person, now: clock(), made }, plan)
    },
  )
  app.post(
    '/api/reels/:id/plans/:plan/write',
    { schema: { params: one, body: writing, response: { 202: z.object({ jobId: z.string() }) } } },
    async ({ params, body, person }, reply) => {
      const { name } = await planOf(db, params.id, params.plan)
      const jobId = await jobs.add('stacks', `Writing ${body.variations.length} of ${name}`, {
        ...{ reelId: params.id, planId: params.plan, by: person, ...body },
      })
      return reply.code(202).send({ jobId })
    },
  )
}
