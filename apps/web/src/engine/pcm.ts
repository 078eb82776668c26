import { PCM_CHUNK, sourceSpan, type PlanVoice, type RenderPlan } from '@yodel/core'

/** Voices, which stand in the order of their starts, that sound within a stretch of the reel. */
function voicesWithin(voices: readonly PlanVoice[], from: number, to: number): PlanVoice[] {
  const end = voices.findIndex((voice) => voice.start >= to)
  return voices.slice(0, end < 0 ? undefined : end).filter((voice) => voice.end > from)
}

/** Chunks of all voices that sound within a stretch of the reel, the soonest first. */
export function chunksWithin(
  plan: RenderPlan,
  from: number,
  to: number,
): { mediaId: string; index: number }[] {
  const wanted: { mediaId: string; index: number; when: number }[] = []
  for (const voice of plan.strips.flatMap(({ voices }) => voicesWithin(voices, from, to))) {
    const begin = voice.offset + Math.max(0, from - voice.start)
    const [low, high] = sourceSpan(voice, begin, voice.offset + Math.min(voice.end, to) - voice.start)
    const [first, last] = [
      Math.floor(Math.max(0, low) / PCM_CHUNK),
      Math.floor(Math.max(0, high - 1) / PCM_CHUNK),
    ]
    for (let index = first; index <= last; index++) {
      // Which chunk of a stretch is needed first: from its beginning, or from its end where it runs backwards.
      const order =
        (voice.played?.reverse ? last - index : index - first) * (PCM_CHUNK / (voice.played?.speed ?? 1))
      wanted.push({ mediaId: voice.mediaId, index, when: Math.max(from, voice.start) + order })
    }
  }
  return wanted.sort((a, b) => a.when - b.when)
}

/** Fetches a chunk of a recording, decoded, a channel each. @throws Error in words for the editor; TypeError when the server does not answer */
export async function fetchPcm(mediaId: string, index: number): Promise<Float32Array[]> {
  const response = await fetch(`/api/media/${encodeURIComponent(mediaId)}/pcm/${index}`)
  if (!response.ok)
    throw new Error(((await response.json()) as { message?: string }).message ?? response.statusText)
  return split(new Float32Array(await response.arrayBuffer()), Number(response.headers.get('x-channels')))
}

function split(interleaved: Float32Array, channels: number): Float32Array[] {
  if (channels === 1) return [interleaved]
  const half = interleaved.length / 2
  const left = new Float32Array(half)
  const right = new Float32Array(half)
  for (let i = 0; i < half; i++) {
    left[i] = interleaved[2 * i] as number
    right[i] = interleaved[2 * i + 1] as number
  }
  return [left, right]
}
