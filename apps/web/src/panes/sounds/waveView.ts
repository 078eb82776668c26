import { samplesIn, type Preparation, type Sound } from '@yodel/core'

/** What of a recording is in view, in samples: from, and to before which. */
export type WaveView = readonly [from: number, to: number]

/** The closest view, in samples: ten milliseconds. */
const CLOSEST = samplesIn(0.01)
/** The shortest part of a recording that can be taken: a millisecond. */
const SHORTEST = samplesIn(0.001)

/** Comes closer (a factor below 1) or goes farther; the sample `at` stays where it is, as far as the recording goes. */
export function zoomed([from, to]: WaveView, length: number, factor: number, at = (from + to) / 2): WaveView {
  const shown = Math.max(CLOSEST, Math.min(length, (to - from) * factor))
  const start = Math.max(0, Math.min(length - shown, at - ((at - from) / (to - from)) * shown))
  return [Math.round(start), Math.round(start + shown)]
}

/** Moves the view by samples, up to the ends of the recording. */
export function scrolled([from, to]: WaveView, length: number, by: number): WaveView {
  const start = Math.max(0, Math.min(length - (to - from), from + by))
  return [Math.round(start), Math.round(start + to - from)]
}

/** What can be dragged in the outline of a recording. */
export type WaveMark = 'in' | 'out' | 'sync' | 'fadeIn' | 'fadeOut'

/** Where the marks of a prepared sound stand, in samples of the recording. */
export function markPlaces(prepared: Preparation, sound: Sound): Readonly<Record<WaveMark, number>> {
  const first = prepared.in ?? 0
  const last = prepared.out ?? sound.length
  return {
    in: first,
    out: last,
    sync: prepared.sync ?? Math.max(sound.sync, first),
    fadeIn: first + (prepared.fadeIn ?? 0) * prepared.speed,
    fadeOut: last - (prepared.fadeOut ?? 0) * prepared.speed,
  }
}

/** What changes of a preparation when a mark is dragged to a sample. In and out stay apart; fades are lengths as played. */
export function moveMark(
  mark: WaveMark,
  at: number,
  prepared: Preparation,
  sound: Sound,
): Partial<Preparation> {
  const { in: first, out: last } = markPlaces(prepared, sound)
  switch (mark) {
    case 'in':
      return { in: at <= 0 ? null : Math.min(at, last - SHORTEST) }
    case 'out':
      return { out: at >= sound.length - 1 ? null : Math.max(at, first + SHORTEST) }
    case 'sync':
      return { sync: at }
    case 'fadeIn':
      return { fadeIn: Math.max(0, Math.round((Math.min(at, last) - first) / prepared.speed)) }
    case 'fadeOut':
      return { fadeOut: Math.max(0, Math.round((last - Math.max(at, first)) / prepared.speed)) }
  }
}
