import { poolSchema } from '@yodel/core'
import { z } from 'zod'
import { AppError } from '../errors.js'
import { drop } from '../shows/keptWithShow.js'
import { keepPool, listPools } from '../sounds/pools.js'
import { byId, DONE, type Routes } from './route.js'

const one = byId.extend({ pool: z.uuid() })

/** Pools with which the reels of a show are performed. */
export const poolRoutes: Routes = (app, { db }) => {
  app.get(
    '/api/reels/:id/pools',
    { schema: { params: byId, response: { 200: z.array(poolSchema) } } },
    ({ params }) => listPools(db, params.id),
  )
  app.put(
    '/api/reels/:id/pools/:pool',
    { schema: { params: one, body: poolSchema, response: { 200: poolSchema } } },
    ({ params, body }) => {
      if (body.id !== params.pool)
        throw new AppError('BAD_REQUEST', 'The pool is another one than the address names.')
      return keepPool(db, params.id, body)
    },
  )
  app.delete(
    '/api/reels/:id/pools/:pool',
    { schema: { params: one, response: DONE } },
    async ({ params }, reply) => {
      await drop(db, 'pool', params.id, params.pool)
      return reply.code(204).send(null)
    },
  )
}
