import { secondsOf, LENGTH_CLASSES, type Quality, type Sound } from '@yodel/core'
import type { SoundParams } from '../../api/api.js'

/** A length in samples as `2.4 s` or `1:05`. */
export function lengthOf(samples: number): string {
  const time = secondsOf(samples)
  return time < 60
    ? `${time.toFixed(time < 9.95 ? 2 : 1)} s`
    : `${Math.floor(time / 60)}:${String(Math.floor(time % 60)).padStart(2, '0')}`
}

/** A count of channels as people say it. */
export function channelsOf(channels: number): string {
  return channels === 1 ? 'mono' : channels === 2 ? 'stereo' : `${channels} ch`
}

/**
 * Where was searched, as it is said after what was found: on how many shelves where some are left out, on all where nothing was
 * asked for.
 *
 * @param all - How many shelves there are
 */
export function shelvesSearched(params: Partial<SoundParams>, all: number): string {
  if (params.shelves !== undefined)
    return `${params.shelves === '' ? 0 : params.shelves.split(',').length} of ${all} shelves`
  return params.q || params.like || params.kit ? '' : 'all shelves'
}

/** A frequency as `240 Hz` or `3.4 kHz`. */
export function hertz(value: number): string {
  return value < 1000 ? `${Math.round(value)} Hz` : `${(value / 1000).toFixed(1)} kHz`
}

/** How a quality is called, shown, and drawn from 0 to 1; and the two ways away from a sound. */
export interface QualityWords {
  readonly quality: Quality
  readonly name: string
  readonly more: string
  readonly less: string
  show(sound: Sound): string
  /** 0 to 1, for a bar. */
  part(sound: Sound): number
}

const log = (value: number, from: number, to: number): number =>
  Math.max(0, Math.min(1, Math.log(Math.max(value, from) / from) / Math.log(to / from)))

/** All measured qualities, in the order in which they are shown. */
export const QUALITY_WORDS: readonly QualityWords[] = [
  {
    quality: 'weight',
    name: 'Weight',
    more: 'heavier',
    less: 'lighter',
    show: (sound) => sound.weight.toFixed(0),
    part: (sound) => sound.weight / 100,
  },
  {
    quality: 'brightness',
    name: 'Brightness',
    more: 'brighter',
    less: 'duller',
    show: (sound) => hertz(sound.brightness),
    part: (sound) => log(sound.brightness, 60, 12_000),
  },
  {
    quality: 'bite',
    name: 'Bite',
    more: 'sharper',
    less: 'softer',
    show: (sound) => sound.bite.toFixed(0),
    part: (sound) => sound.bite / 100,
  },
  {
    quality: 'noisiness',
    name: 'Noise',
    more: 'noisier',
    less: 'more tonal',
    show: (sound) => sound.noisiness.toFixed(0),
    part: (sound) => sound.noisiness / 100,
  },
  {
    quality: 'pitch',
    name: 'Pitch',
    more: 'higher',
    less: 'lower',
    show: (sound) => (sound.pitch > 0 ? hertz(sound.pitch) : 'none'),
    part: (sound) => (sound.pitch > 0 ? log(sound.pitch, 50, 4000) : 0),
  },
  {
    quality: 'loudness',
    name: 'Loudness',
    more: 'louder',
    less: 'quieter',
    show: (sound) => `${sound.loudness.toFixed(1)} LUFS`,
    part: (sound) => Math.max(0, (sound.loudness + 60) / 60),
  },
  {
    quality: 'length',
    name: 'Length',
    more: 'longer',
    less: 'shorter',
    show: (sound) => lengthOf(sound.length),
    part: (sound) => log(secondsOf(sound.length), 0.05, 300),
  },
]

/** Names and filters of the classes of length. */
export const LENGTH_NAMES = LENGTH_CLASSES.map((most, index) => {
  const least = LENGTH_CLASSES[index - 1] ?? 0
  if (most === Infinity) return { name: 'over 1 min', filter: `length>${least}` }
  return index === 0
    ? { name: `under ${most} s`, filter: `length<${most}` }
    : { name: `${least} to ${most} s`, filter: `length:${least}-${most}` }
})

/** The figures of a result, the most wanted last. */
export const figuresOf = (sound: Sound): readonly string[] => [
  ...(sound.events > 1 ? [`${sound.events} events`] : []),
  ...(sound.rating > 0 ? ['★'.repeat(sound.rating)] : []),
  lengthOf(sound.length),
]

/**
 * Which figures stand beside a name, and which give way to it and stand below.
 *
 * @param room - Pixels that the name leaves
 * @param roomOf - Pixels that a figure takes
 */
export function placeFigures(
  figures: readonly string[],
  room: number,
  roomOf: (figure: string) => number,
): { beside: readonly string[]; below: readonly string[] } {
  let from = figures.length
  let left = room
  for (; from > 0; from--) {
    left -= roomOf(figures[from - 1] as string)
    if (left < 0) break
  }
  return { beside: figures.slice(from), below: figures.slice(0, from) }
}
