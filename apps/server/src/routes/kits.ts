import { kitEditSchema, kitSchema, plainText } from '@yodel/core'
import { z } from 'zod'
import { deleteKit, editKit, fillKit, listKits, makeKit } from '../sounds/kits.js'
import { DONE, soundIds, type Routes } from './route.js'

const params = z.object({ id: z.uuid() })
const newKit = z.object({ name: plainText(200).trim().min(1), parentId: z.uuid().nullable().default(null) })

/** Kits: recordings that somebody has gathered. */
export const kitRoutes: Routes = (app, { db, clock }) => {
  app.get('/api/kits', { schema: { response: { 200: z.array(kitSchema) } } }, (request) =>
    listKits(db, request.person),
  )

  app.post(
    '/api/kits',
    { schema: { body: newKit, response: { 201: kitSchema } } },
    async ({ body, person }, reply) =>
      reply.code(201).send(await makeKit(db, person, body.name, body.parentId)),
  )

  app.patch(
    '/api/kits/:id',
    { schema: { params, body: kitEditSchema, response: DONE } },
    async (request, reply) => {
      await editKit(db, request.person, request.params.id, request.body)
      return reply.code(204).send(null)
    },
  )

  app.delete('/api/kits/:id', { schema: { params, response: DONE } }, async (request, reply) => {
    await deleteKit(db, request.person, request.params.id)
    return reply.code(204).send(null)
  })

  app.post(
    '/api/kits/:id/sounds',
    { schema: { params, body: z.object({ ids: soundIds, put: z.boolean() }), response: DONE } },
    async (request, reply) => {
      await fillKit(db, request.person, request.params.id, request.body.ids, request.body.put, clock())
      return reply.code(204).send(null)
    },
  )
}
