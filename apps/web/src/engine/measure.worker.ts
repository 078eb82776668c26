import { LoudnessMeter, Mixer, PCM_CHUNK, type RenderPlan, type SoundBlock } from '@yodel/core'
import { chunksWithin, fetchPcm } from './pcm.js'

// Renders a stretch of a reel by several plans, faster than it plays, and says how loud each is.

/** Which stretch, in samples of the reel, by which plans. */
export interface MeasureOrder {
  readonly plans: readonly RenderPlan[]
  readonly from: number
  readonly to: number
}

/** Integrated loudness by each plan in LUFS, or why it can't be had. */
export type Measured = { readonly loudness: readonly number[] } | { readonly problem: string }

const BLOCK = 4800

self.onmessage = ({ data }: MessageEvent<MeasureOrder>) =>
  void measure(data)
    .catch((error: unknown): Measured => ({
      problem: error instanceof Error ? error.message : String(error),
    }))
    .then((measured) => self.postMessage(measured))

async function measure({ plans, from, to }: MeasureOrder): Promise<Measured> {
  const chunks = new Map<string, SoundBlock>()
  for (const { mediaId, index } of plans.flatMap((plan) =>
    chunksWithin(plan, Math.max(0, from - BLOCK), to + BLOCK),
  )) {
    const key = `${mediaId}#${index}`
    if (!chunks.has(key))
      chunks.set(key, {
        from: index * PCM_CHUNK,
        channels: (await fetchPcm(mediaId, index)) as [Float32Array],
      })
  }
  const [left, right, both] = [new Float32Array(BLOCK), new Float32Array(BLOCK), new Float32Array(2 * BLOCK)]
  const loudness = plans.map((plan) => {
    const mixer = new Mixer(
      plan,
      (mediaId, at) => chunks.get(`${mediaId}#${Math.floor(at / PCM_CHUNK)}`) ?? null,
    )
    const meter = new LoudnessMeter(2)
    mixer.seek(from)
    for (let at = from; at < to; at += BLOCK) {
      mixer.render(left, right, 0, BLOCK)
      for (let i = 0; i < BLOCK; i++) {
        both[2 * i] = left[i] as number
        both[2 * i + 1] = right[i] as number
      }
      meter.push(both)
    }
    return meter.finish()
  })
  return { loudness }
}
