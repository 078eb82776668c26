import {
  eventsSchema,
  findEvents,
  OutlineCollector,
  plainText,
  preparationSchema,
  SOUND_ORDERS,
  soundEditSchema,
  soundFacetsSchema,
  soundPageSchema,
  soundSchema,
  soundUseSchema,
} from '@yodel/core'
import { z } from 'zod'
import { AppError } from '../errors.js'
import { findSource } from '../media/findSource.js'
import { answerCue, answerSearch } from '../search/answerSearch.js'
import type { SearchScope } from '../search/buildQuery.js'
import { countFacets } from '../search/countFacets.js'
import { hearNow } from '../sounds/hearShelf.js'
import { eventsOf, preparationOf, prepare, setEvents, usesOf } from '../sounds/remembered.js'
import { shelvesSeen } from '../sounds/shelves.js'
import { similarSounds } from '../sounds/similarSounds.js'
import { editSounds, soundsByIds } from '../sounds/soundRows.js'
import { byId as params, DONE, soundIds, type Routes } from './route.js'

const scopeQuery = z.object({
  q: plainText(400).default(''),
  /** Ids of the shelves that are on, by commas; all when absent. */
  shelves: plainText(20_000).optional(),
  kit: z.uuid().optional(),
  show: plainText(64).optional(),
})

/** Recordings: searched, described, prepared, gathered. */
export const soundRoutes: Routes = (app, services) => {
  const { db, clock } = services

  app.get(
    '/api/sounds',
    {
      schema: {
        querystring: scopeQuery.extend({
          sort: z.enum(SOUND_ORDERS).default('match'),
          down: z.enum(['0', '1']).default('0'),
          beyond: z.coerce.number().optional(),
          like: plainText(64).optional(),
          /** The text is a cue's words: not all of them have to be met. */
          cue: z.enum(['0', '1']).default('0'),
          cursor: plainText(2000).optional(),
        }),
        response: { 200: soundPageSchema },
      },
    },
    async ({ query, person }) => {
      const scope = await scopeOf(query, person)
      if (query.like !== undefined) {
        const sounds = await soundsByIds(db, await similarSounds(db, query.like, query.q, scope))
        return {
          sounds: sounds.map((sound) => ({ ...sound, why: [] })),
          total: sounds.length,
          next: null,
          respelt: [],
          problems: [],
          instead: [],
        }
      }
      const answer = query.cue === '1' ? answerCue : answerSearch
      return answer(db, {
        text: query.q,
        scope,
        sort: query.sort,
        down: query.down === '1',
        beyond: query.beyond ?? null,
        cursor: query.cursor ?? null,
      })
    },
  )

  app.get(
    '/api/sounds/facets',
    { schema: { querystring: scopeQuery, response: { 200: soundFacetsSchema } } },
    async ({ query, person }) => countFacets(db, query.q, await scopeOf(query, person)),
  )

  app.post(
    '/api/sounds/by-ids',
    { schema: { body: z.object({ ids: soundIds }), response: { 200: z.array(soundSchema) } } },
    (request) => soundsByIds(db, request.body.ids),
  )

  app.patch(
    '/api/sounds',
    {
      schema: {
        body: z.object({ ids: soundIds, edit: soundEditSchema }),
        response: { 200: z.object({ edited: z.int() }) },
      },
    },
    async (request) => ({
      edited: await editSounds(db, request.body.ids, request.body.edit),
    }),
  )

  /** A sound that is about to be used: listened to now, should the index not have come to it yet. */
  app.get('/api/sounds/:id', { schema: { params, response: { 200: soundSchema } } }, async (request) => {
    await hearNow(services, request.params.id)
    return oneSound(request.params.id)
  })

  app.get(
    '/api/sounds/:id/uses',
    { schema: { params, response: { 200: z.array(soundUseSchema) } } },
    (request) => usesOf(db, request.params.id),
  )

  app.get('/api/sounds/:id/events', { schema: { params, response: { 200: eventsSchema } } }, (request) =>
    eventsOf(db, request.params.id),
  )

  app.put(
    '/api/sounds/:id/events',
    { schema: { params, body: z.object({ events: eventsSchema.shape.events }), response: DONE } },
    async (request, reply) => {
      const { length } = await oneSound(request.params.id)
      const { events } = request.body
      const bad = events.findIndex(
        ([start, sync, end], index) =>
          start > sync || sync >= end || end > length || start < (events[index - 1]?.[2] ?? 0),
      )
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
      await oneSound(request.params.id)
      await prepare(db, request.person, request.params.id, request.body)
      return reply.code(204).send(null)
    },
  )

  async function oneSound(id: string) {
    const [sound] = await soundsByIds(db, [id])
    if (!sound) throw new AppError('NOT_FOUND', `There is no sound ${id}; its shelf may have been taken out.`)
    return sound
  }

  async function scopeOf(query: z.infer<typeof scopeQuery>, person: string): Promise<SearchScope> {
    const all = await shelvesSeen(db, person)
    const wanted = query.shelves === undefined ? null : new Set(query.shelves.split(','))
    const shelves = all
      .filter(({ id, visible }) => visible && (!wanted || wanted.has(id)))
      .map(({ id }) => id)
    return {
      shelves: shelves.length === all.length ? null : shelves,
      kit: query.kit ?? null,
      showId: query.show ?? null,
      now: clock(),
    }
  }
}
