import {
  listedSoundSchema,
  type FoundSoundFile,
  plainText,
  preparationSchema,
  QUALITIES,
  SOUND_ORDERS,
  soundEditSchema,
  soundFacetsSchema,
  soundPageSchema,
  soundSchema,
  soundUseSchema,
  type SoundOrder,
} from '@yodel/core'
import { z } from 'zod'
import { answerCue, answerSearch } from '../search/answerSearch.js'
import { countFacets } from '../search/countFacets.js'
import { Line } from '../processes/Line.js'
import { scopeOf, scopeQuery } from '../search/scopeOf.js'
import { hearNow } from '../sounds/hearShelf.js'
import { gone } from '../http/gone.js'
import { preparedWav } from '../sounds/preparedWav.js'
import { usesOf } from '../sounds/remembered.js'
import { similarSounds } from '../sounds/similarSounds.js'
import { soundFiles } from '../sounds/soundFiles.js'
import { editSounds, oneSound, soundsByIds } from '../sounds/soundRows.js'
import { attachment, byId as params, soundIds, type Routes } from './route.js'

/** Searches and counts that the database does at once; more would only make each of them slower. */
const SEARCHES_AT_ONCE = 4

const searchQuery = scopeQuery.extend({
  sort: z.enum(SOUND_ORDERS).default('match'),
  down: z.enum(['0', '1']).default('0'),
  /** Only in an order by a quality; no quality has values so large. */
  beyond: z.coerce.number().min(-1e12).max(1e12).optional(),
  like: plainText(64).optional(),
  /** The text is a cue's words: not all of them have to be met. */
  cue: z.enum(['0', '1']).default('0'),
  cursor: plainText(2000).optional(),
})

const isQuality = (sort: SoundOrder): boolean => QUALITIES.some((quality) => quality === sort)

/** A preparation as it stands in an address. */
const preparedQuery = plainText(2000)
  .transform((text, context): unknown => {
    try {
      return JSON.parse(text)
    } catch {
      context.addIssue('a preparation as JSON is expected')
      return z.NEVER
    }
  })
  .pipe(preparationSchema)

/** Recordings: searched, counted, described. */
export const soundRoutes: Routes = (app, services) => {
  const { db, clock } = services
  const line = new Line(SEARCHES_AT_ONCE)

  const search = async ({ query, person }: { query: z.infer<typeof searchQuery>; person: string }) => {
    const scope = await scopeOf(db, query, person, clock())
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
      beyond: isQuality(query.sort) ? (query.beyond ?? null) : null,
      cursor: query.cursor ?? null,
    })
  }

  app.get(
    '/api/sounds',
    {
      schema: {
        querystring: searchQuery,
        response: { 200: soundPageSchema },
      },
    },
    (request, reply) => line.run(gone(reply), () => search(request)),
  )

  app.get(
    '/api/sounds/facets',
    { schema: { querystring: scopeQuery, response: { 200: soundFacetsSchema } } },
    (request, reply) =>
      line.run(gone(reply), async () =>
        countFacets(db, request.query.q, await scopeOf(db, request.query, request.person, clock())),
      ),
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
    return oneSound(db, request.params.id)
  })

  /** What only its file says, for who lays it by a list. */
  app.get(
    '/api/sounds/:id/file',
    { schema: { params, response: { 200: listedSoundSchema } } },
    async ({ params: { id } }) => {
      await hearNow(services, id)
      const [file] = await soundFiles(db, [(await oneSound(db, id)).id])
      return file as FoundSoundFile
    },
  )

  /** What was prepared, as a file for other programs. */
  app.get(
    '/api/sounds/:id/prepared.wav',
    { schema: { params, querystring: z.object({ as: preparedQuery }) } },
    async ({ params: { id }, query }, reply) => {
      await hearNow(services, id)
      const sound = await oneSound(db, id)
      const { bytes, stream } = await preparedWav(services, sound, query.as)
      return reply
        .type('audio/wav')
        .header('content-length', bytes)
        .header('content-disposition', attachment(`${sound.name}.wav`))
        .send(stream)
    },
  )

  app.get(
    '/api/sounds/:id/uses',
    { schema: { params, response: { 200: z.array(soundUseSchema) } } },
    (request) => usesOf(db, request.params.id),
  )
}
