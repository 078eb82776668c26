import { secondsOf } from '../time/convert.js'
import { slug } from './words.js'

/** Upper bounds of the classes that lengths are counted in, in seconds. */
export const LENGTH_CLASSES = [1, 3, 10, 60, Infinity] as const

/** What a sound is narrowed by, as its row has it. Length in samples at 48 kHz. */
export interface FacetFields {
  readonly shelfId: string
  readonly category: string
  readonly licence: string
  readonly tags: string
  readonly channels: number
  readonly sampleRate: number
  readonly length: number
  readonly rating: number
}

/**
 * The tokens that a sound is found by beside its words. They stand in the same index, so that words and filters are answered in one step.
 * The letter after `=` says the field; no word begins with `=`.
 */
export function facetTokens(sound: FacetFields): string[] {
  return [
    `=s${sound.shelfId}`,
    `=c${slug(sound.category)}`,
    `=l${slug(sound.licence)}`,
    `=n${sound.channels}`,
    `=k${sound.sampleRate}`,
    `=d${lengthClass(secondsOf(sound.length))}`,
    `=r${sound.rating}`,
    ...tagList(sound.tags).map((tag) => `=t${slug(tag)}`),
  ]
}

/** Tags as they are typed, parted by commas. */
export function tagList(tags: string): string[] {
  return tags
    .split(',')
    .map((tag) => tag.trim())
    .filter((tag) => tag !== '')
}

/** The class of a length in seconds: an index of {@link LENGTH_CLASSES}. */
export function lengthClass(time: number): number {
  return LENGTH_CLASSES.findIndex((most) => time < most || most === Infinity)
}

/** The classes that overlap a range of lengths in seconds. */
export function classesWithin([least, most]: readonly [number | null, number | null]): number[] {
  const from = lengthClass(least ?? 0)
  const to = most === null || most === 0 ? LENGTH_CLASSES.length - 1 : lengthClass(most)
  return LENGTH_CLASSES.map((_, index) => index).filter(
    (index) => index >= (most === 0 ? 0 : from) && index <= (most === 0 ? 0 : to),
  )
}
