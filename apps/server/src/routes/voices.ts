import { plainText, sayingSchema, soundSchema, voicesSchema } from '@yodel/core'
import { z } from 'zod'
import { gone } from '../http/gone.js'
import { keepLine, speechWav } from '../voices/keepLine.js'
import { byId, type Routes } from './route.js'

const keeping = sayingSchema.extend({
  /** The cue that it is said for: `DX 004`. */
  cue: plainText(40),
  /** Samples since midnight of the moment at which it is laid. */
  timeReference: z
    .int()
    .min(0)
    .max(2 ** 46),
})
const kept = z.object({ sound: soundSchema, fits: z.boolean(), seconds: z.number() })

/** Voices that machines have: which there are, hearing a line, and keeping it as a recording. */
export const voiceRoutes: Routes = (app, services) => {
  const { voices } = services

  app.get('/api/voices', { schema: { response: { 200: voicesSchema } } }, () => voices.voices())

  app.post('/api/voices/hear', { schema: { body: sayingSchema } }, async ({ body }, reply) => {
    const speech = await voices.say(body, gone(reply))
    return reply
      .type('audio/wav')
      .header('x-fits', speech.fits ? '1' : '0')
      .send(speechWav(speech))
  })

  app.post(
    '/api/reels/:id/lines',
    { schema: { params: byId, body: keeping, response: { 200: kept } } },
    async ({ params, body, person }, reply) => {
      const speech = await voices.say(body, gone(reply))
      const sound = await keepLine(services, speech, body, { reelId: params.id, by: person, ...body })
      return { sound, fits: speech.fits, seconds: speech.samples.length / speech.rate }
    },
  )
}
