import { eventsSchema, findEvents, misfitOf, OutlineCollector, preparationSchema } from '@yodel/core'
import { z } from 'zod'
import { AppError } from '../errors.js'
import { findSource } from '../media/findSource.js'
import { eventsOf, preparationOf, prepare, setEvents } from '../sounds/remembered.js'
import { oneSound } from '../sounds/soundRows.js'
import { byId as params, DONE, type Routes } from './route.js'

/** What happens in a recording, one event after another, and how a person has prepared it for use. */
export const soundEventRoutes: Routes = (app, services) => {
  const { db } = services

  app.get('/api/sounds/:id/events', { schema: { params, response: { 200: eventsSchema } } }, (request) =>
    eventsOf(db, request.params.id),
  )

  app.put(
    '/api/sounds/:id/events',
    { schema: { params, body: z.object({ events: eventsSchema.shape.events }), response: DONE } },
    async (request, reply) => {
      const { length } = await oneSound(db, request.params.id)
      const { events } = request.body
      const bad = misfitOf(events, length)
      if (bad >= 0)
        throw new AppError(
          'BAD_REQUEST',
          `Event ${bad + 1} does not fit: each begins after the one before has ended, at or before its attack, and ends within the recording.`,
        )
      await setEvents(db, request.params.id, events, true)
      return reply.code(204).send(null)
    },
  )

  /** Splits a recording anew, with other settings than the usual. */
  app.post(
    '/api/sounds/:id/split',
    {
      schema: {
        params,
        body: z.object({ quiet: z.number().min(20).max(2000).nullable(), rise: z.number().min(4).max(30) }),
        response: { 200: eventsSchema },
      },
    },
    async (request) => {
      const source = await findSource(db, request.params.id)
      const outline = new OutlineCollector()
      const length = await services.media.listen(source, (block) => outline.push(block, source.channels))
      const events = findEvents(outline.finish(), length, request.body)
      await setEvents(db, request.params.id, events, request.body.quiet !== null || request.body.rise !== 9)
      return eventsOf(db, request.params.id)
    },
  )

  app.get(
    '/api/sounds/:id/prepared',
    { schema: { params, response: { 200: preparationSchema.nullable() } } },
    (request) => preparationOf(db, request.person, request.params.id),
  )

  app.put(
    '/api/sounds/:id/prepared',
    { schema: { params, body: preparationSchema.nullable(), response: DONE } },
    async (request, reply) => {
      await oneSound(db, request.params.id)
      await prepare(db, request.person, request.params.id, request.body)
      return reply.code(204).send(null)
    },
  )
}
