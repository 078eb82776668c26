import { generateKeyBetween } from 'fractional-indexing'
import { ok, refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import { shortlistOf, type ReelDocument } from '../reel/document.js'
import type { Candidate } from '../reel/records.js'
import { samples, type Samples } from '../time/units.js'
import { cueCode } from '../reel/numbering.js'

const samplesOrNull = (value: number | null): Samples | null => (value === null ? null : samples(value))

/** Puts a sound, or a part of one, last on the shortlist of a cue. One that is there already is refused. */
export function shortlistSound(
  doc: ReelDocument,
  args: {
    id: string
    cueId: string
    sound: { id: string; name: string }
    /** The part of the file that is meant and its sync point, samples of the file; null where the sound's own are. */
    part: { readonly in: number | null; readonly out: number | null; readonly sync: number | null }
    /** Which take of the cue it is; 0 for what was found. */
    take?: number
  },
): Result<Change> {
  const cue = doc.cue.get(args.cueId)
  if (!cue) return refuse('CORE_RECORD_MISSING', 'shortlist', args.cueId)
  const list = shortlistOf(doc, args.cueId)
  if (
    list.some((one) => one.soundId === args.sound.id && one.in === args.part.in && one.out === args.part.out)
  )
    return refuse('CORE_NOTHING_DONE', args.sound.name, `it is on the shortlist of ${cueCode(cue)} already`)
  const order = generateKeyBetween(list.at(-1)?.order ?? null, null)
  const candidate: Candidate = {
    kind: 'candidate',
    id: args.id,
    cueId: args.cueId,
    soundId: args.sound.id,
    name: args.sound.name,
    order,
    remark: '',
    in: samplesOrNull(args.part.in),
    out: samplesOrNull(args.part.out),
    sync: samplesOrNull(args.part.sync),
    take: args.take ?? 0,
  }
  return ok({
    label: `${args.sound.name} on the shortlist of ${cueCode(cue)}`,
    added: [candidate],
    updated: [],
    removed: [],
  })
}

/** Ranks a candidate one place higher (-1) or lower (1) among what was found, or among takes; at the end nothing changes. */
export function rankCandidate(doc: ReelDocument, args: { id: string; by: 1 | -1 }): Result<Change> {
  const from = doc.candidate.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'shortlist', args.id)
  const others = shortlistOf(doc, from.cueId).filter(({ take }) => take > 0 === from.take > 0)
  const at = others.findIndex((one) => one.id === args.id)
  const label = `Rank ${from.name}`
  if (!others[at + args.by]) return ok({ label, added: [], updated: [], removed: [] })
  const [before, after] = args.by < 0 ? [others[at - 2], others[at - 1]] : [others[at + 1], others[at + 2]]
  const order = generateKeyBetween(before?.order ?? null, after?.order ?? null)
  return ok({ label, added: [], updated: [[from, { ...from, order }]], removed: [] })
}

/** Says something of a candidate. */
export function remarkCandidate(doc: ReelDocument, args: { id: string; remark: string }): Result<Change> {
  const from = doc.candidate.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'shortlist', args.id)
  return ok({
    label: `Remark on ${from.name}`,
    added: [],
    updated: from.remark === args.remark ? [] : [[from, { ...from, remark: args.remark }]],
    removed: [],
  })
}
