import { pastSearchSchema, plainText } from '@yodel/core'
import { z } from 'zod'
import { noteSearch, pastSearches } from '../sounds/remembered.js'
import { DONE, type Routes } from './route.js'

const place = z.object({ reelId: plainText(64).default(''), cueId: plainText(64).default('') })

/** Searches that have led to something, to be made again. */
export const searchRoutes: Routes = (app, { db, clock }) => {
  app.get(
    '/api/searches',
    { schema: { querystring: place, response: { 200: z.array(pastSearchSchema) } } },
    ({ query, person }) => pastSearches(db, person, query.reelId, query.cueId),
  )

  app.post(
    '/api/searches',
    { schema: { body: place.extend({ query: plainText(400).trim().min(1) }), response: DONE } },
    async ({ body, person }, reply) => {
      await noteSearch(db, person, body, clock())
      return reply.code(204).send(null)
    },
  )
}
