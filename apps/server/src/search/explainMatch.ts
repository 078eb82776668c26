import path from 'node:path'
import { plainWords, type Match, type Sound } from '@yodel/core'
import type { BuiltQuery } from './buildQuery.js'
import type { Meaning } from './expandWords.js'

const FIELDS = ['name', 'keywords', 'tags', 'description', 'note', 'category', 'folders'] as const
type Field = (typeof FIELDS)[number]

const textOf = (sound: Sound, field: Field): string =>
  field === 'name'
    ? `${sound.name} ${path.basename(sound.path)}`
    : field === 'folders'
      ? `${sound.shelf} ${path.dirname(sound.path)}`
      : sound[field]

/** Says for each typed word which word of which field met it, the weightiest field first, and what was typed before what only means it. */
export function explainMatch(query: BuiltQuery, sound: Sound): Match[] {
  // Most words are met in the name: the other fields are split only when they are come to.
  const split = new Map<Field, string[]>()
  const wordsOf = (field: Field): string[] => {
    const known = split.get(field) ?? plainWords(textOf(sound, field))
    split.set(field, known)
    return known
  }
  return [...query.meanings.values()].flatMap((meaning) => {
    for (const direct of [true, false])
      for (const field of FIELDS)
        for (const found of wordsOf(field)) {
          const how = direct ? (found.startsWith(meaning.typed) ? 'typed' : null) : kinshipOf(meaning, found)
          if (how) return [{ typed: meaning.typed, found, field, how }]
        }
    return []
  })
}

const kinshipOf = (meaning: Meaning, found: string): Match['how'] | null => meaning.others.get(found) ?? null
