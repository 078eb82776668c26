import {
  changeSchema,
  commitSchema,
  committedSchema,
  logEntrySchema,
  loggedChangeSchema,
  newReelSchema,
  reelEditSchema,
  reelProgressSchema,
  reelStateSchema,
  showEditSchema,
  showSchema,
  thrownReelSchema,
} from '@yodel/core'
import { z } from 'zod'
import { changesSince, commitChange } from '../reels/commitChange.js'
import { createReel, listLog, listShows, loadChange } from '../reels/reelStore.js'
import { reelAnswer } from '../reels/reelAnswer.js'
import { renameReel, renameShow } from '../reels/rename.js'
import { reelProgress } from '../reels/progress.js'
import { bringBack, listThrown, throwReel } from '../reels/throwAway.js'
import { byId as params, DONE, logNumber, type Routes } from './route.js'

/** Shows, reels, and the changes made to them. */
export const reelRoutes: Routes = (app, { db, clock }) => {
  app.get('/api/shows', { schema: { response: { 200: z.array(showSchema) } } }, () => listShows(db))

  app.patch(
    '/api/shows/:id',
    { schema: { params, body: showEditSchema, response: DONE } },
    async ({ params: { id }, body, person }, reply) => {
      await renameShow(db, id, body, person, clock())
      return reply.code(204).send(null)
    },
  )

  app.get('/api/thrown', { schema: { response: { 200: z.array(thrownReelSchema) } } }, () => listThrown(db))

  app.patch(
    '/api/reels/:id',
    { schema: { params, body: reelEditSchema, response: DONE } },
    async ({ params: { id }, body: { name }, person }, reply) => {
      await renameReel(db, id, name, person, clock())
      return reply.code(204).send(null)
    },
  )

  app.delete('/api/reels/:id', { schema: { params, response: DONE } }, async (request, reply) => {
    await throwReel(db, request.params.id, request.person, clock())
    return reply.code(204).send(null)
  })

  app.post('/api/reels/:id/back', { schema: { params, response: DONE } }, async (request, reply) => {
    await bringBack(db, request.params.id)
    return reply.code(204).send(null)
  })

  app.get(
    '/api/reels/:id/progress',
    { schema: { params, response: { 200: reelProgressSchema } } },
    (request) => reelProgress(db, request.params.id),
  )

  app.post(
    '/api/reels',
    { schema: { body: newReelSchema, response: { 201: z.object({ id: z.string() }) } } },
    async (request, reply) =>
      reply.code(201).send({ id: await createReel(db, request.person, clock(), request.body) }),
  )

  app.get(
    '/api/reels/:id',
    { schema: { params, response: { 200: reelStateSchema } } },
    async (request, reply) =>
      // Written already, and by what was checked on its way in: it is sent as it is.
      reply.type('application/json').send((await reelAnswer(db, request.params.id, request.person)) as never),
  )

  app.post(
    '/api/reels/:id/changes',
    { schema: { params, body: commitSchema, response: { 200: committedSchema } } },
    (request) => commitChange(db, request.params.id, request.person, clock(), request.body),
  )

  app.get(
    '/api/reels/:id/changes',
    {
      schema: {
        params,
        querystring: z.object({ since: logNumber }),
        response: { 200: z.array(loggedChangeSchema) },
      },
    },
    (request) => changesSince(db, request.params.id, request.query.since),
  )

  app.get(
    '/api/reels/:id/log',
    { schema: { params, response: { 200: z.array(logEntrySchema) } } },
    (request) => listLog(db, request.params.id),
  )

  app.get(
    '/api/reels/:id/changes/:seq',
    { schema: { params: params.extend({ seq: logNumber.min(1) }), response: { 200: changeSchema } } },
    async (request) =>
      (await loadChange(db, request.params.id, request.params.seq)) as z.infer<typeof changeSchema>,
  )
}
