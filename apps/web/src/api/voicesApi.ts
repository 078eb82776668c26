import type { Saying, Sound, Voice, Voices } from '@yodel/core'
import { api, messageOf } from './api.js'

/** What is asked of the server about voices. */
export const voicesApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** Asked anew for each reel that is opened: somebody may have installed one. */
    voices: build.query<Voices, void>({ query: () => '/voices', keepUnusedDataFor: 600 }),
    keepLine: build.mutation<
      { sound: Sound; fits: boolean; seconds: number },
      Saying & { reelId: string; cue: string; timeReference: number }
    >({
      query: ({ reelId, ...body }) => ({ url: `/reels/${reelId}/lines`, method: 'POST', body }),
    }),
  }),
})

/** A line as it was said, to be heard. @throws Error in words for the editor */
export async function heardLine(saying: Saying, signal: AbortSignal): Promise<ArrayBuffer> {
  const answer = await fetch('/api/voices/hear', {
    ...{ method: 'POST', signal, body: JSON.stringify(saying) },
    headers: { 'content-type': 'application/json' },
  }).catch((error: unknown) => {
    signal.throwIfAborted()
    throw new Error(messageOf(error))
  })
  if (!answer.ok) throw new Error(messageOf({ data: await answer.json().catch(() => undefined) }))
  return answer.arrayBuffer()
}

/** The voice that speaks where none was chosen: the first of the person's language, else of English, else any. @param languages - BCP 47, the dearest first */
export function usualVoice(voices: readonly Voice[], languages: readonly string[]): Voice | null {
  const wanted = [...languages, 'en']
  for (const language of wanted) {
    const exact = voices.find((voice) => voice.language.toLowerCase() === language.toLowerCase())
    const [base] = language.split('-')
    const found = exact ?? voices.find((voice) => voice.language.split('-')[0] === base)
    if (found) return found
  }
  return voices[0] ?? null
}
