import type { Clip } from '../reel/records.js'
import { kaiserSinc } from './kaiser.js'
import type { Played, PlanVoice } from './renderPlan.js'
import { fastest, warped, type Warp } from './warp.js'

/** Samples on either side of a place that interpolation at a speed reads. */
export function reachOf(speed: number): number {
  return Math.ceil(SINC_ZEROS / cutoffOf(speed)) + 1
}

/** How a clip is played; undefined when straight on. What keeps its pitch is another recording, made by the server, that is played at speed 1. */
export function playedOf(
  clip: Pick<Clip, 'keepPitch' | 'speed' | 'reverse' | 'sides'> & { readonly recorded: number },
  warp: Warp | null = null,
): Played | undefined {
  const speed = clip.keepPitch ? 1 : clip.speed
  return speed === 1 && !clip.reverse && clip.sides === 'kept' && !warp
    ? undefined
    : { speed, reverse: clip.reverse, sides: clip.sides, recorded: clip.recorded, ...(warp ? { warp } : {}) }
}

/** The fastest at which a recording is read. */
export const topSpeed = ({ speed, warp }: Played): number => speed * (warp ? fastest(warp) : 1)

/** The media that a clip is played from: its recording, or some channels of it, or the same stretched without a change of pitch. */
export function mediaOf(clip: Pick<Clip, 'soundId' | 'channels' | 'speed' | 'keepPitch'>): string {
  const { soundId, channels, speed, keepPitch } = clip
  return `${soundId}${channels === '' ? '' : `@${channels}`}${keepPitch && speed !== 1 ? `~${speed}` : ''}`
}

/** What a media id means of a recording. */
export interface MediaParts {
  readonly soundId: string
  /** Which of its channels; see sounds/channels. */
  readonly channels: string
  /** The speed it is stretched to; 1 when it is not. */
  readonly stretch: number
}

/** Parts a media id of a recording, as {@link mediaOf} makes it. */
export function partsOfMedia(mediaId: string): MediaParts {
  const [, soundId = mediaId, channels = '', speed = '1'] =
    /^([^@~]*)(?:@([^~]*))?(?:~(.*))?$/.exec(mediaId) ?? []
  return { soundId, channels, stretch: Number(speed) }
}

/**
 * Samples of the recording that a stretch of a voice needs, `[from, to)`; may begin below 0 or end beyond the recording.
 *
 * @param from - First sample of the stretch as it is played, counted from the beginning of the recording as it is played.
 */
export function sourceSpan(
  voice: Pick<PlanVoice, 'played' | 'offset'>,
  from: number,
  to: number,
): readonly [number, number] {
  const { played } = voice
  if (!played) return [from, to]
  const { speed, reverse, recorded, warp } = played
  const place = (at: number): number => (warp ? voice.offset + warped(warp, at - voice.offset) : at)
  const [begin, end] = [place(from), place(to - 1)]
  const [first, last] = reverse ? [recorded - 1 - end, recorded - 1 - begin] : [begin, end]
  const reach = speed === 1 && !warp ? 0 : reachOf(topSpeed(played))
  return [Math.floor(first * speed) - reach, Math.floor(last * speed) + reach + 1]
}

/** Zero crossings of the interpolating sinc on either side. */
export const SINC_ZEROS = 12
const STEPS = 512

/** Above speed 1 the band is narrowed, so that nothing folds back. */
export function cutoffOf(speed: number): number {
  return speed > 1 ? 0.96 / speed : 0.98
}

/** Kaiser-windowed sinc (beta 8), STEPS values for each zero crossing; marked as pure, so that a page that plays nothing itself is free of it. */
const TABLE = /* @__PURE__ */ Float64Array.from({ length: SINC_ZEROS * STEPS + 2 }, (_, index) =>
  kaiserSinc(index / STEPS, SINC_ZEROS),
)

/**
 * The value of a sound between its samples, by a windowed sinc.
 *
 * @param x - Samples, of which x[0] lies at place 0.
 * @param at - Place; {@link reachOf} samples on either side must be there.
 */
export function valueBetween(x: Float32Array, at: number, cutoff: number): number {
  const width = SINC_ZEROS / cutoff
  const first = Math.ceil(at - width)
  const last = Math.floor(at + width)
  let sum = 0
  for (let n = first; n <= last; n++) {
    const place = Math.abs(at - n) * cutoff * STEPS
    const index = place | 0
    const low = TABLE[index] as number
    sum += (x[n] as number) * (low + ((TABLE[index + 1] as number) - low) * (place - index))
  }
  return sum * cutoff
}
