import type { Preparation } from '../contract/sounds.js'
import type { Clip } from '../reel/records.js'

/** What placing needs to know of a recording. All lengths are samples at 48 kHz of the recording as it is played. */
export interface SoundToPlace {
  readonly id: string
  readonly name: string
  readonly recorded: number
  /** Sync point: the instant that must meet the frame. */
  readonly sync: number
  /** Part to be heard, `[from, to)`; the whole recording when left out. */
  readonly from?: number
  readonly to?: number
  readonly gain?: number
  readonly fadeIn?: number
  readonly fadeOut?: number
  readonly speed?: Clip['speed']
  readonly keepPitch?: boolean
  readonly reverse?: boolean
  readonly sides?: Clip['sides']
  readonly channels?: Clip['channels']
  /** The line that it says for an actor. */
  readonly scratch?: Clip['scratch']
  /** The treatment that it is to have of its own; see treatment/clipTreatment. */
  readonly treatment?: Clip['treatment']
}

/** A sound as it is in its file. */
export const UNPREPARED: Preparation = {
  in: null,
  out: null,
  sync: null,
  fadeIn: null,
  fadeOut: null,
  gain: 0,
  speed: 1,
  keepPitch: false,
  reverse: false,
  sides: 'kept',
  channels: '',
}

/** Says whether a preparation changes anything. */
export function isPrepared(preparation: Preparation): boolean {
  return (Object.keys(UNPREPARED) as (keyof Preparation)[]).some(
    (key) => preparation[key] !== UNPREPARED[key] && key !== 'keepPitch',
  )
}

/**
 * A recording with its preparation, as it is placed. The preparation counts in samples of the file, so that it stays right
 * whatever its speed and direction; a clip counts in samples as played. Rounded once, here.
 */
export function prepareSound(
  sound: { readonly id: string; readonly name: string; readonly length: number; readonly sync: number },
  preparation: Preparation,
): SoundToPlace {
  const { speed, reverse } = preparation
  const recorded = Math.max(1, Math.floor(sound.length / speed))
  const played = (sample: number): number => {
    const at = Math.max(0, Math.min(recorded, Math.round(sample / speed)))
    return reverse ? recorded - at : at
  }
  const [first, last] = [Math.min(preparation.in ?? 0, sound.length - 1), preparation.out ?? sound.length]
  const bounds = [played(first), played(Math.max(last, first + 1))].sort((a, b) => a - b) as [number, number]
  const from = bounds[0]
  const to = Math.max(bounds[1], from + 1)
  // Played backwards, what was the beginning of the attack is where it ends.
  const sync = played(
    preparation.sync ??
      (preparation.in !== null && sound.sync < preparation.in ? preparation.in : sound.sync),
  )
  return {
    id: sound.id,
    name: sound.name,
    recorded,
    sync,
    from,
    to,
    gain: preparation.gain,
    ...(preparation.fadeIn === null ? {} : { fadeIn: preparation.fadeIn }),
    ...(preparation.fadeOut === null ? {} : { fadeOut: preparation.fadeOut }),
    speed,
    keepPitch: preparation.keepPitch,
    reverse,
    sides: preparation.sides,
    channels: preparation.channels,
  }
}

/** The part of a clip's recording in samples of the file, `[from, to)`, for drawing and for its events; `reverse` when it is met from its end. */
export function fileSpan(
  clip: Pick<Clip, 'speed' | 'reverse'> & { readonly [Time in 'offset' | 'length' | 'recorded']: number },
  from: number = clip.offset,
  to: number = clip.offset + clip.length,
): readonly [number, number] {
  const [low, high] = clip.reverse ? [clip.recorded - to, clip.recorded - from] : [from, to]
  return [low * clip.speed, high * clip.speed]
}
