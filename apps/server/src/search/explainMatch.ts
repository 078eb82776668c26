import path from 'node:path'
import { plainWords, type Match, type Sound } from '@yodel/core'
import type { BuiltQuery } from './buildQuery.js'
import type { Meaning } from './expandWords.js'

const FIELDS = ['name', 'keywords', 'tags', 'description', 'note', 'category', 'folders'] as const

/** Says for each typed word which word of which field met it, the weightiest field first, and what was typed before what only means it. */
export function explainMatch(query: BuiltQuery, sound: Sound): Match[] {
  const texts = FIELDS.map((field) => ({
    field,
    words: plainWords(field === 'name' ? `${sound.name} ${path.basename(sound.path)}` : field === 'folders' ? `${sound.shelf} ${path.dirname(sound.path)}` : sound[field]),
  }))
  return [...query.meanings.values()].flatMap((meaning) => {
    for (const direct of [true, false])
      for (const { field, words } of texts)
        for (const found of words) {
          const how = direct ? (found.startsWith(meaning.typed) ? 'typed' : null) : kinshipOf(meaning, found)
          if (how) return [{ typed: meaning.typed, found, field, how }]
        }
    return []
  })
}

const kinshipOf = (meaning: Meaning, found: string): Match['how'] | null => meaning.others.get(found) ?? null
