import { slug, plainWords } from './words.js'

/** Words that a result must have, or must not have. */
export interface QueryTerm {
  /** As they are compared; more than one only in a phrase. */
  readonly words: readonly string[]
  /** In quotation marks: the words stand together in this order, whole. Otherwise a word may be the beginning of a longer one. */
  readonly phrase: boolean
  /** Typed with a leading `-`. */
  readonly without: boolean
}

/** Which sounds of a show are meant by `used:`. */
export type UsedFilter = 'show' | 'never' | 'recent'

/** Conditions beside the words. A field that is absent does not narrow. */
export interface SoundFilters {
  /** Seconds, `[least, most]`, either may be open (null). */
  length?: readonly [least: number | null, most: number | null]
  channels?: number
  /** Hz. */
  sampleRate?: number
  /** Slug that a category begins with. */
  category?: string
  /** Slug that a licence begins with. */
  licence?: string
  /** Slug of a tag. */
  tag?: string
  /** Slug that the name of a shelf begins with. */
  shelf?: string
  /** At least so many stars, 1 to 5. */
  rating?: number
  /** Added within so many days. */
  addedDays?: number
  used?: UsedFilter
}

/** A typed search, taken apart. */
export interface SoundQuery {
  readonly terms: readonly QueryTerm[]
  readonly filters: SoundFilters
  /** Filters that were typed but can't be understood, as typed, each with the reason. */
  readonly problems: readonly string[]
}

const MOST_TERMS = 12
const PIECE = /(-?)(?:([a-z]+)(:|>=|<=|>|<|=)(?:"([^"]*)"|(\S+))|"([^"]*)"?|(\S+))/giu
const ADDED_DAYS: Readonly<Record<string, number>> = { today: 1, week: 7, month: 31, year: 366 }

/**
 * Takes a typed search apart.
 * `door wood` wants both; `"wooden door"` the phrase; `-creak` leaves out; `length<2`, `channels:stereo`, `rate:96`, `category:steps`,
 * `licence:cc0`, `shelf:boots`, `tag:rusty`, `rating>=3`, `added:week`, `used:show` narrow. Anything is allowed; what can't be understood is said.
 */
export function parseQuery(text: string): SoundQuery {
  const terms: QueryTerm[] = []
  const filters: SoundFilters = {}
  const problems: string[] = []
  for (const match of text.slice(0, 400).matchAll(PIECE)) {
    const [whole, minus = '', field, sign = ':', quotedValue, plainValue, phrase, word] = match
    const reader = field === undefined ? undefined : FILTERS[field.toLowerCase()]
    if (reader) {
      const problem = reader(filters, quotedValue ?? plainValue ?? '', sign)
      if (problem) problems.push(`${whole}: ${problem}`)
      continue
    }
    const words = plainWords(phrase ?? word ?? whole.slice(minus.length))
    const without = minus === '-'
    if (phrase !== undefined && words.length > 1) terms.push({ words, phrase: true, without })
    else for (const single of words) terms.push({ words: [single], phrase: phrase !== undefined, without })
  }
  return { terms: terms.slice(0, MOST_TERMS), filters, problems }
}

type Reader = (filters: SoundFilters, value: string, sign: string) => string | null

const numberIn = (value: string): number | null => {
  const found = Number.parseFloat(value.replace(',', '.'))
  return Number.isFinite(found) && found >= 0 ? found : null
}

const text =
  (field: 'category' | 'licence' | 'tag' | 'shelf'): Reader =>
  (filters, value) => {
    const found = slug(value)
    if (found === '') return 'has no words'
    filters[field] = found
    return null
  }

const FILTERS: Readonly<Record<string, Reader>> = {
  length: (filters, value, sign) => {
    const [from = '', to] = value.replace(/s$/, '').split('-')
    const first = numberIn(from)
    const second = to === undefined ? null : numberIn(to)
    if (first === null || (to !== undefined && to !== '' && second === null))
      return 'write it like length<2, length>10 or length:1-3, in seconds'
    const [least, most] = filters.length ?? [null, null]
    if (sign.startsWith('<')) filters.length = [least, first]
    else if (sign.startsWith('>')) filters.length = [first, most]
    else filters.length = to === undefined ? [first * 0.9, first * 1.1] : [first, second]
    return null
  },
  channels: (filters, value) => {
    const count = { mono: 1, stereo: 2 }[value.toLowerCase()] ?? numberIn(value)
    if (count === null || count < 1) return 'write mono, stereo or a number'
    filters.channels = Math.round(count)
    return null
  },
  rate: (filters, value) => {
    const rate = numberIn(value)
    if (rate === null || rate === 0) return 'write it like rate:48 or rate:44.1, in kHz'
    filters.sampleRate = Math.round(rate < 1000 ? rate * 1000 : rate)
    return null
  },
  rating: (filters, value) => {
    const stars = numberIn(value)
    if (stars === null || stars < 1 || stars > 5) return 'ratings are 1 to 5'
    filters.rating = Math.ceil(stars)
    return null
  },
  added: (filters, value) => {
    const days = ADDED_DAYS[value.toLowerCase()] ?? numberIn(value)
    if (days === null || days === 0) return 'write today, week, month, year or a number of days'
    filters.addedDays = days
    return null
  },
  used: (filters, value) => {
    if (value !== 'show' && value !== 'never' && value !== 'recent')
      return 'write used:show, used:never or used:recent'
    filters.used = value
    return null
  },
  category: text('category'),
  licence: text('licence'),
  tag: text('tag'),
  shelf: text('shelf'),
}
