import { parseQuery, type QueryTerm, type SoundPage } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { soundsByIds } from '../sounds/soundRows.js'
import type { BuiltQuery, SearchScope } from './buildQuery.js'
import { countFacets } from './countFacets.js'
import { explainMatch } from './explainMatch.js'
import { searchSounds, type FoundIds, type SearchOrder } from './searchSounds.js'

const MOST_INSTEAD = 4

/** With fewer results than this, a search by a cue's words asks for fewer of them. */
const TOO_FEW = 6
const LOOSER = ['all', 'two', 'one'] as const

/**
 * Searches by the words of a cue, which describe and don't search: all of them, else any two, else any one.
 * Small words that say nothing of a sound are left out.
 */
export async function answerCue(db: DataSource, order: SearchOrder): Promise<SoundPage> {
  const [kept = '', ...rest] = order.cursor?.split('.') ?? []
  const text = order.text.replace(SMALL_WORDS, ' ')
  const going = LOOSER.find((words) => words === kept)
  const attempts = going ? [going] : LOOSER
  for (const words of attempts) {
    const attempt: SearchOrder = {
      ...order,
      text,
      scope: { ...order.scope, words },
      cursor: going ? rest.join('.') : null,
    }
    const found = await searchSounds(db, attempt)
    if (found.ids.length < TOO_FEW && words !== attempts.at(-1)) continue
    const page = await pageFrom(db, attempt, found)
    return page.next === null ? page : { ...page, next: `${words}.${page.next}` }
  }
  throw new Error('answerCue: no attempt')
}

const SMALL_WORDS =
  /\b(a|an|the|of|on|in|at|to|by|and|or|with|from|into|off|over|under|up|down|is|are|his|her|its|he|she|it|they|as|for|then|again)\b/gi

/** One page of results with why each was found; when nothing is found, what would find something. */
export async function answerSearch(db: DataSource, order: SearchOrder): Promise<SoundPage> {
  return pageFrom(db, order, await searchSounds(db, order))
}

async function pageFrom(
  db: DataSource,
  order: SearchOrder,
  { ids, next, total, query }: FoundIds,
): Promise<SoundPage> {
  const sounds = await soundsByIds(db, ids)
  const nothing = ids.length === 0 && next === null && order.cursor === null
  return {
    sounds: sounds.map((sound) => ({ ...sound, why: explainMatch(query, sound) })),
    total,
    next,
    respelt: respeltWords(query),
    problems: [...query.problems],
    instead: nothing ? await whatWouldFind(db, order.text, order.scope) : [],
  }
}

function respeltWords(query: BuiltQuery): SoundPage['respelt'] {
  return [...query.meanings.values()]
    .filter(
      ({ direct, others }) => direct.length === 0 && [...others.values()].every((how) => how === 'respelt'),
    )
    .map(({ typed, others }) => ({ typed, words: [...others.keys()] }))
}

/** Searches with one word or all filters less that do find something, the most first. */
async function whatWouldFind(
  db: DataSource,
  text: string,
  scope: SearchScope,
): Promise<SoundPage['instead']> {
  const { terms, filters } = parseQuery(text)
  const pieces = terms.map(typedAs)
  const filtered = Object.keys(filters).length > 0
  const candidates =
    pieces.length > 1 ? pieces.map((_, index) => pieces.filter((_, other) => other !== index).join(' ')) : []
  if (filtered && pieces.length > 0) candidates.unshift(pieces.join(' '))
  const found = await Promise.all(
    [...new Set(candidates)]
      .slice(0, 6)
      .map(async (query) => ({ query, total: (await countFacets(db, query, scope)).total })),
  )
  return found
    .filter(({ total }) => total > 0)
    .sort((a, b) => b.total - a.total)
    .slice(0, MOST_INSTEAD)
}

const typedAs = (term: QueryTerm): string =>
  `${term.without ? '-' : ''}${term.phrase ? `"${term.words.join(' ')}"` : term.words.join(' ')}`
