import { generateKeyBetween } from 'fractional-indexing'
import { ok, refuse, type Result } from '../errors.js'
import { sameRecord, type Change } from '../reel/change.js'
import { insertsOn, type ReelDocument } from '../reel/document.js'
import { insertSchema, STEM_PLACES, WHOLE, type Effect, type Insert } from '../reel/inserts.js'
import { EFFECT_NAMES } from '../reel/inserts.js'
import { PRESETS } from '../treatment/presets.js'

/** Words for a place of treatment: the track's name, a category's stem, or the whole. */
export function placeName(doc: Pick<ReelDocument, 'track'>, place: string): string {
  if (place === WHOLE) return 'the whole'
  return STEM_PLACES.includes(place)
    ? `the stem ${place.slice('stem:'.length)}`
    : (doc.track.get(place)?.name ?? place)
}

/** Adds a piece of treatment after those that a place has, set by a preset (the first of its kind when none is named). */
export function addInsert(
  doc: ReelDocument,
  args: { id: string; on: string; effect: Effect; preset?: string },
): Result<Change> {
  const preset = PRESETS[args.effect].find(({ name }) => name === args.preset) ?? PRESETS[args.effect][0]
  const order = generateKeyBetween(insertsOn(doc, args.on).at(-1)?.order ?? null, null)
  const insert = {
    kind: 'insert',
    id: args.id,
    on: args.on,
    order,
    bypass: false,
    effect: args.effect,
    ...preset?.settings,
  } as Insert
  return ok({
    label: `${EFFECT_NAMES[args.effect]} on ${placeName(doc, args.on)}`,
    added: [insert],
    updated: [],
    removed: [],
  })
}

/** Sets fields of a piece of treatment: its settings, or whether it is passed by. What lies out of range is refused, by name. */
export function editInsert(
  doc: ReelDocument,
  args: { id: string; fields: Readonly<Record<string, number | string | boolean>> },
): Result<Change> {
  const from = doc.insert.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'editInsert', args.id)
  const read = insertSchema.safeParse({ ...from, ...args.fields })
  if (!read.success)
    return refuse(
      'CORE_BAD_RECORD',
      EFFECT_NAMES[from.effect],
      `${read.error.issues[0]?.path.join('.') ?? ''}: ${read.error.issues[0]?.message ?? ''}`,
    )
  const to = read.data
  return ok({
    label: `${EFFECT_NAMES[from.effect]} on ${placeName(doc, from.on)}`,
    added: [],
    updated: sameRecord(from, to) ? [] : [[from, to]],
    removed: [],
  })
}

/** Moves a piece of treatment before another one of the same place; null puts it last. */
export function moveInsert(doc: ReelDocument, args: { id: string; before: string | null }): Result<Change> {
  const from = doc.insert.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'moveInsert', args.id)
  const label = `Order of treatment on ${placeName(doc, from.on)}`
  if (args.before === args.id) return ok({ label, added: [], updated: [], removed: [] })
  const others = insertsOn(doc, from.on).filter((other) => other.id !== args.id)
  const at = args.before === null ? others.length : others.findIndex((other) => other.id === args.before)
  if (at < 0) return refuse('CORE_RECORD_MISSING', 'moveInsert', args.before ?? '')
  const order = generateKeyBetween(others[at - 1]?.order ?? null, others[at]?.order ?? null)
  return ok({
    label,
    added: [],
    updated: order === from.order ? [] : [[from, { ...from, order }]],
    removed: [],
  })
}
