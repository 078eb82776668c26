import { ok, refuse, type Result } from '../errors.js'
import { rateOf, reelOf, type ReelDocument } from '../reel/document.js'
import type { Cue, CueState } from '../reel/records.js'
import { readEntry } from '../time/entry.js'
import type { FrameRate } from '../time/rates.js'
import { formatLength, formatTimecode } from '../time/timecode.js'
import { frames } from '../time/units.js'
import {
  CATEGORIES,
  categoryCalled,
  CATEGORY_NAMES,
  CATEGORY_SPELLINGS,
  type Category,
} from '../reel/categories.js'
import { coverageOf } from './coverage.js'
import { cueCode } from '../reel/numbering.js'

/** How lists and screens name the states. */
export const STATE_NAMES: Readonly<Record<CueState, string>> = {
  open: 'open',
  work: 'in work',
  ready: 'ready',
  approved: 'approved',
  omitted: 'omitted',
}

/** Names of the priorities 0 to 3. */
export const PRIORITY_NAMES = ['', 'low', 'high', 'must'] as const

/** What reading a cell needs to know. `before` is the cue as it stands; times may be typed relative to it. */
export interface CellContext {
  readonly rate: FrameRate
  /** Frames from 00:00:00:00 to the reel's first frame. */
  readonly firstFrame: number
  readonly before: Cue
}

/** A column of the spotting sheet: on the screen, in files that go out, and in files that come in. */
export interface CueField {
  readonly key: string
  readonly title: string
  /** Other headings under which sheets typed elsewhere carry it (common practice, from memory); lower case. */
  readonly aliases: readonly string[]
  /** The cell as text. */
  readonly text: (doc: Pick<ReelDocument, 'reel' | 'clip'>, cue: Cue) => string
  /** Reads a typed cell; null for what is computed and can't be typed. */
  readonly read: ((text: string, context: CellContext) => Result<Partial<Cue>>) | null
  /** Values to choose from, where there are only so many. */
  readonly choices?: readonly string[]
}

/** Letters of a cell at the most. */
export const MOST_LETTERS = 2000

type TextKey = 'words' | 'source' | 'where' | 'scene' | 'notes' | 'by' | 'omitReason'
type TimeKey = 'in' | 'out' | 'sync'

const words = (key: TextKey, title: string, ...aliases: string[]): CueField => ({
  key,
  title,
  aliases,
  text: (_, cue) => cue[key],
  read: (text) =>
    text.length > MOST_LETTERS
      ? refuse('CORE_BAD_CELL', title, `longer than ${MOST_LETTERS} letters`)
      : ok({ [key]: text.trim() }),
})

const time = (key: TimeKey, title: string, ...aliases: string[]): CueField => ({
  key,
  title,
  aliases,
  text: (doc, cue) => formatTimecode(reelOf(doc).firstFrame + cue[key], rateOf(doc)),
  read: (text, { rate, firstFrame, before }) => {
    const entry = readEntry(text, frames(firstFrame + before[key]), rate)
    if (!entry.ok) return refuse('CORE_BAD_CELL', title, entry.message)
    const frame = entry.frame - firstFrame
    if (frame < 0)
      return refuse(
        'CORE_BAD_CELL',
        title,
        `${formatTimecode(entry.frame, rate)} lies before the reel begins at ${formatTimecode(firstFrame, rate)}`,
      )
    return ok({ [key]: frame })
  },
})

/** One of a list of values by any of its spellings. */
function choice<T>(
  key: keyof Cue,
  title: string,
  values: readonly (readonly [T, ...string[]])[],
  ...aliases: string[]
): CueField {
  const spell = (text: string): string => text.trim().toLowerCase()
  return {
    key,
    title,
    aliases,
    choices: values.map((value) => value[1] as string),
    text: (_, cue) => values.find((value) => value[0] === cue[key])?.[1] ?? String(cue[key]),
    read: (text) => {
      const found = values.find(
        (value) =>
          value.slice(1).some((name) => spell(String(name)) === spell(text)) ||
          spell(String(value[0])) === spell(text),
      )
      if (found) return ok({ [key]: found[0] })
      return refuse(
        'CORE_BAD_CELL',
        title,
        `"${text}" is none of ${values.map((value) => value[1] || '(empty)').join(', ')}`,
      )
    },
  }
}

/** The columns of the spotting sheet in the order of its lists. */
export const CUE_FIELDS: readonly CueField[] = [
  {
    key: 'code',
    title: 'Cue',
    aliases: ['cue no', 'cue no.', 'cue number', 'cue #', 'cue id'],
    text: (_, cue) => cueCode(cue),
    read: readCode,
  },
  choice(
    'category',
    'Category',
    CATEGORIES.map(
      (category) =>
        [category, category, CATEGORY_NAMES[category], ...CATEGORY_SPELLINGS[category]] as [
          Category,
          ...string[],
        ],
    ),
    'type',
    'cat',
    'kind',
    'department',
  ),
  {
    key: 'number',
    title: 'Number',
    aliases: ['no', 'no.', '#', 'nr', 'num'],
    text: (_, cue) => String(cue.number),
    read: readNumber,
  },
  time(
    'in',
    'In',
    'tc in',
    'timecode in',
    'start',
    'start tc',
    'start time',
    'timecode',
    'tc',
    'time',
    'from',
    'begin',
  ),
  time('out', 'Out', 'tc out', 'timecode out', 'end', 'end tc', 'end time', 'to', 'stop'),
  time('sync', 'Sync', 'sync point', 'hit', 'sync tc'),
  {
    key: 'length',
    title: 'Length',
    aliases: ['duration', 'dur', 'len'],
    text: (doc, cue) => formatLength(cue.out - cue.in, rateOf(doc)),
    read: null,
  },
  words(
    'words',
    'What is heard',
    'description',
    'sound',
    'effect',
    'words',
    'text',
    'what',
    'desc',
    'dialogue',
    'line',
  ),
  words('source', 'Made by', 'source', 'maker', 'object', 'who or what', 'character'),
  words('where', 'Where', 'location', 'place', 'set'),
  words('scene', 'Scene', 'sc', 'scene no', 'scene number'),
  choice(
    'onScreen',
    'On screen',
    [
      ['unsaid', ''],
      ['on', 'on', 'yes', 'y', 'x', 'onscreen', 'on screen'],
      ['off', 'off', 'no', 'n', 'offscreen', 'off screen'],
    ],
    'on/off',
    'on/off screen',
    'screen',
  ),
  choice(
    'perspective',
    'Perspective',
    [
      ['unsaid', ''],
      ['close', 'close', 'near', 'cu'],
      ['medium', 'medium', 'mid'],
      ['far', 'far', 'distant', 'wide'],
    ],
    'distance',
  ),
  words('notes', 'Notes', 'note', 'remarks', 'remark', 'comments'),
  choice(
    'priority',
    'Priority',
    [
      [0, PRIORITY_NAMES[0]],
      [1, PRIORITY_NAMES[1]],
      [2, PRIORITY_NAMES[2]],
      [3, PRIORITY_NAMES[3]],
    ],
    'prio',
    'importance',
  ),
  words('by', 'Who', 'editor', 'assigned to', 'assigned', 'responsible', 'owner', 'who does it'),
  choice(
    'state',
    'State',
    (Object.keys(STATE_NAMES) as CueState[]).map(
      (state) => [state, STATE_NAMES[state]] as [CueState, string],
    ),
    'status',
  ),
  words('omitReason', 'Reason', 'omit reason', 'omitted because'),
  {
    key: 'covered',
    title: 'Covered',
    aliases: ['coverage'],
    text: (doc, cue) => coverageOf(doc, cue),
    read: null,
  },
]

/** The column of a key. @throws Error for a key that is none */
export function cueField(key: string): CueField {
  const field = CUE_FIELDS.find((candidate) => candidate.key === key)
  if (!field) throw new Error(`cueField: there is no column ${key}`)
  return field
}

/** A code such as `FX 014`, `SFX 14` or `14a`; a number without a category leaves that as it is. */
function readCode(text: string): Result<Partial<Cue>> {
  const match = /^\s*(\p{L}[\p{L}\s]*?)?[\s_.#-]*0*(\d{1,5})\s*\p{L}?\s*$/u.exec(text)
  const called = match?.[1]?.trim()
  const category = called ? (categoryCalled(called) ?? begunBy(called)) : null
  if (!match || (called && !category) || Number(match[2]) < 1)
    return refuse('CORE_BAD_CELL', 'Cue', `"${text}" is no cue number such as FX 014`)
  return ok({ ...(category ? { category } : {}), number: Number(match[2]) })
}

/** The one category whose code begins so: `Fo 3`. */
function begunBy(letters: string): Category | null {
  const some = CATEGORIES.filter((category) => category.startsWith(letters.toUpperCase()))
  return some.length === 1 ? (some[0] ?? null) : null
}

function readNumber(text: string): Result<Partial<Cue>> {
  const number = Number(text.trim())
  return Number.isInteger(number) && number >= 1 && number <= 99_999
    ? ok({ number })
    : refuse('CORE_BAD_CELL', 'Number', `"${text}" is no whole number from 1 to 99999`)
}
