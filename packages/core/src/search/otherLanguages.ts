import { ACTS } from './lexicon/acts.js'
import { LIVING } from './lexicon/living.js'
import { PLACES } from './lexicon/places.js'
import { THINGS } from './lexicon/things.js'
import { plainWord } from './words.js'

/** Languages of the word lists beside English, in the order of their columns. */
export const OTHER_LANGUAGES = ['German', 'French', 'Spanish', 'Italian', 'Dutch'] as const

/** An English word that a foreign one stands for. */
export interface Translation {
  readonly english: string
  readonly language: (typeof OTHER_LANGUAGES)[number]
}

let byForeign: Map<string, Translation[]> | null = null

/** The English words that a word of another language means; none for a word that is not in the lists. Accents don't matter. */
export function translationsOf(word: string): readonly Translation[] {
  byForeign ??= readLists()
  return byForeign.get(plainWord(word)) ?? []
}

/** The English terms of the lists. */
export function englishTerms(): string[] {
  return lines().map((line) => line.slice(0, line.indexOf('|')))
}

const lines = (): string[] => [THINGS, PLACES, LIVING, ACTS].flatMap((list) => list.trim().split('\n'))

function readLists(): Map<string, Translation[]> {
  const found = new Map<string, Translation[]>()
  for (const line of lines()) {
    const [english = '', ...columns] = line.split('|')
    for (const [index, column] of columns.entries()) {
      const language = OTHER_LANGUAGES[index]
      for (const foreign of column.split(',')) {
        const key = plainWord(foreign)
        // Only single words are looked up; a word that is the same in English needs no translation.
        if (!language || key.includes(' ') || key === english) continue
        const known = found.get(key) ?? []
        if (!known.some((entry) => entry.english === english)) known.push({ english, language })
        found.set(key, known)
      }
    }
  }
  return found
}
