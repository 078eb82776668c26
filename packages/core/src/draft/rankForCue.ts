import type { FoundSound } from '../contract/sounds.js'
import type { Category } from '../reel/categories.js'
import type { Cue } from '../reel/records.js'
import { plainWord, plainWords } from '../search/words.js'
import { guessCategory } from '../sounds/guessCategory.js'
import { SAMPLE_RATE } from '../time/units.js'

/** A sound for a cue, how well it fits (0 to 1), and in words why. */
export interface RankedSound {
  readonly sound: FoundSound
  readonly sure: number
  /** How well it meets the words alone, 0 to 1. */
  readonly met: number
  readonly why: readonly string[]
}

/** What is known of a cue beside its record. */
export interface CueContext {
  /** Seconds that it lasts. */
  readonly seconds: number
  /** Recordings that sound nearby, by their ids: 1 where they are placed, less where they are only meant. */
  readonly near: ReadonlyMap<string, number>
  /** How many onsets of the guide are to be laid one by one; 0 where it is one sound. */
  readonly steps: number
  /** What sounds like the best that the words found, by its id: 1 most alike; and how well that one is what the words say, 0 to 1. */
  readonly alike?: { readonly name: string; readonly met: number; readonly ids: ReadonlyMap<string, number> }
}

/** What each reason weighs. They are added, and what speaks against a sound is taken off. */
const WEIGHTS = { words: 0.48, name: 0.12, category: 0.22, length: 0.12, distance: 0.06, near: 0.22 } as const

/** So much of the words is made up for by sounding like what meets them. */
const BY_EAR = 0.4

/** How much it says that a word was met: where, and how. */
const FIELDS = { name: 1, keywords: 0.9, tags: 0.9, description: 0.6, note: 0.5, category: 0.5, folders: 0.3 }
const WAYS = { typed: 1, translated: 0.9, within: 0.7, related: 0.55, respelt: 0.4 }

const SMALL =
  /^(a|an|the|of|on|in|at|to|by|and|or|with|from|into|off|over|under|up|down|is|are|his|her|its|he|she|it|they|as|for|then|again|than|out|along|behind)$/

/** The words of a cue that say something of a sound. */
export const wordsOfCue = (words: string): string[] => [
  ...new Set(plainWords(words).filter((word) => !SMALL.test(word) && !/^\d+$/.test(word))),
]

/** Words of distance, in a cue or in what is said of a sound. */
const FAR = /\b(far|distant|away|apart|offstage)\b/i
const CLOSE = /\b(close|near|detail|intimate)\b/i
const distanceIn = (text: string): 'far' | 'close' | null =>
  FAR.test(text) ? 'far' : CLOSE.test(text) ? 'close' : null

/** How well one category stands in for another; 0 for the rest. */
const STANDS_IN: Readonly<Partial<Record<Category, Partial<Record<Category, number>>>>> = {
  FX: { FOL: 0.5, BG: 0.3, DSG: 0.3 },
  FOL: { FX: 0.5 },
  BG: { FX: 0.3, DSG: 0.3 },
  DSG: { FX: 0.4, BG: 0.4 },
}

/**
 * Ranks what a search by the words of a cue has found, the best first. Only what is stated decides: the same cue and sounds
 * give the same order, and nothing is learnt from what was kept before.
 *
 * @param found - With the reasons for which each was found, in the order of the search
 */
export function rankForCue(cue: Cue, found: readonly FoundSound[], context: CueContext): RankedSound[] {
  const words = wordsOfCue(cue.words)
  const met = found.map((sound) => metBy(sound, words))
  // A word that few of them meet tells more than one that all do; one that none meets tells nothing.
  const weights = words.map((_, at) => {
    const count = met.filter((one) => (one[at] as number) > 0).length
    return count === 0 ? 0 : Math.log2(1 + found.length / count)
  })
  const whole = weights.reduce((sum, weight) => sum + weight, 0)
  return found
    .map((sound, index) => {
      const share = weights.reduce((sum, weight, at) => sum + weight * (met[index]?.[at] as number), 0)
      const byWords = whole === 0 ? 0 : share / whole
      const { met: known = 0, ids } = context.alike ?? {}
      const byEar = BY_EAR * known * (ids?.get(sound.id) ?? 0)
      return fit(cue, sound, Math.max(byWords, byEar), context, byEar > byWords)
    })
    .sort((a, b) => b.sure - a.sure || (keyOf(a) < keyOf(b) ? -1 : 1))
}

/** What decides between two that fit as well: not the id, which tells where a recording lies. */
const keyOf = ({ sound: { name, id } }: RankedSound): string => `${name} ${id}`

/** How well a sound meets each of some words, 0 to 1. */
function metBy({ why }: FoundSound, words: readonly string[]): number[] {
  return words.map((word) =>
    Math.max(
      0,
      ...why
        .filter(({ typed }) => plainWord(typed) === word)
        .map(
          ({ field, how, found }) =>
            FIELDS[field] * WAYS[how === 'typed' && plainWord(found) !== word ? 'within' : how],
        ),
    ),
  )
}

function fit(cue: Cue, sound: FoundSound, words: number, context: CueContext, byEar: boolean): RankedSound {
  const category = guessCategory(sound)
  const filed = category === cue.category ? 1 : (STANDS_IN[cue.category]?.[category] ?? 0)
  const length = lengthFits(cue, sound, context)
  const distance = distanceFits(cue, sound)
  const near = context.near.get(sound.id) ?? 0
  const sure =
    WEIGHTS.words * words +
    WEIGHTS.name * nameMet(cue, sound) +
    WEIGHTS.category * filed +
    WEIGHTS.length * length +
    WEIGHTS.distance * distance -
    WEIGHTS.near * near
  return {
    sound,
    sure: Math.max(0, Math.min(1, sure)),
    met: words,
    why: [
      ...(byEar && context.alike ? [`sounds like ${context.alike.name}`] : []),
      ...reasons(cue, sound, { filed, length, distance, near, category }),
    ],
  }
}

/** The part of a sound's own name that the cue speaks of. */
function nameMet(cue: Cue, sound: FoundSound): number {
  const own = wordsOfCue(sound.name)
  const said = new Set(wordsOfCue(`${cue.words} ${cue.source} ${cue.where}`))
  return own.length === 0 ? 0 : own.filter((word) => said.has(word)).length / own.length
}

/** How well its length fits: an ambience is to last as long as its cue, steps are to be single or many, anything else not much longer. */
function lengthFits(cue: Cue, { length, events }: FoundSound, { seconds, steps }: CueContext): number {
  const own = length / SAMPLE_RATE
  if (steps > 0) return events >= steps || own < 1.2 ? 1 : 0.3
  if (cue.category === 'BG') return Math.max(0.2, Math.min(1, own / seconds))
  const most = Math.max(1.5, seconds * 2)
  return own <= most ? 1 : Math.max(0, 1 - (own - most) / (3 * most))
}

/** 1 where cue and sound speak of one distance, -1 where of two, 0 where either says nothing. */
function distanceFits(cue: Cue, sound: FoundSound): number {
  const wanted =
    cue.perspective === 'far' || cue.perspective === 'close' ? cue.perspective : distanceIn(cue.words)
  const has = distanceIn(`${sound.name} ${sound.keywords} ${sound.description}`)
  return wanted === null || has === null ? 0 : wanted === has ? 1 : -1
}

function reasons(
  cue: Cue,
  sound: FoundSound,
  fits: { filed: number; length: number; distance: number; near: number; category: Category },
): string[] {
  const words = [
    ...new Set(sound.why.map(({ typed, found, how }) => (how === 'typed' ? typed : `${typed}: ${found}`))),
  ]
  return [
    ...(words.length > 0 ? [words.slice(0, 4).join(', ')] : []),
    ...(fits.filed === 1 ? [] : [`filed as ${fits.category}, not ${cue.category}`]),
    ...(fits.length < 0.5 ? ['its length does not fit'] : []),
    ...(fits.distance === 0 ? [] : [fits.distance > 0 ? 'as far as the cue says' : 'another distance']),
    ...(fits.near === 0 ? [] : [fits.near === 1 ? 'sounds nearby already' : 'meant for a cue nearby']),
  ]
}
