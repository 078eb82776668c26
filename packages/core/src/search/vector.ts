import { plainWords, splitName } from './words.js'

/** The texts of a sound that are searched, from what counts most to what counts least. */
export interface SearchedTexts {
  readonly name: string
  /** File name without ending. */
  readonly stem: string
  readonly keywords: string
  readonly tags: string
  readonly description: string
  readonly note: string
  readonly category: string
  /** Names of the shelf and of the folders that the file lies in. */
  readonly folders: string
}

/** Weights of the four classes of fields, most to least: name, keywords and tags, description and notes, category and folders. */
export const FIELD_CLASSES = ['A', 'B', 'C', 'D'] as const

const MOST_WORDS = 400

/** The token of two words that follow each other: phrases are looked up by it, since two common words meet in far more sounds than they neighbour in. */
export const pairToken = (first: string, second: string): string => `=p${first} ${second}`

/**
 * The search vector of a sound in PostgreSQL's notation for `tsvector`: each word with its positions and weight,
 * then the pairs of neighbours and the facet tokens.
 * It is built here and not by the database's parser, so that names and queries are split by the same rules.
 */
export function searchVector(texts: SearchedTexts, facets: readonly string[]): string {
  const classes = [
    `${texts.name} ${texts.stem}`,
    `${texts.keywords} , ${texts.tags}`,
    `${texts.description} , ${texts.note}`,
    `${texts.category} , ${texts.folders}`,
  ]
  const places = new Map<string, string[]>()
  const pairs = new Set<string>()
  let position = 0
  for (const [index, text] of classes.entries()) {
    const words = plainWords(splitName(text)).slice(0, MOST_WORDS)
    words.slice(1).forEach((word, before) => pairs.add(pairToken(words[before] as string, word)))
    for (const word of words) {
      const known = places.get(word) ?? []
      known.push(`${++position}${FIELD_CLASSES[index]}`)
      places.set(word, known)
    }
    // A phrase must not run from one field into the next.
    position += 2
  }
  return [
    ...[...places].map(([word, at]) => `${quoteLexeme(word)}:${at.join(',')}`),
    ...[...pairs, ...facets].map(quoteLexeme),
  ].join(' ')
}

/** A word as PostgreSQL's notation for vectors and queries quotes it. */
export function quoteLexeme(word: string): string {
  return `'${word.replaceAll('\\', '\\\\').replaceAll("'", "''")}'`
}

/**
 * The static order of sounds that match alike: what was rated well and described well stands first.
 *
 * @returns 0 to 100.
 */
export function standingOf(sound: {
  readonly rating: number
  readonly description: string
  readonly keywords: string
  readonly category: string
  readonly licence: string
}): number {
  const described = [sound.description, sound.keywords, sound.category, sound.licence].filter(
    (text) => text !== '',
  ).length
  return sound.rating * 16 + described * 5
}
