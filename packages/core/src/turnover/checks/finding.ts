import type { ReelDocument } from '../../reel/document.js'
import type { Clip, ReelRecord } from '../../reel/records.js'
import { RECORD_KINDS } from '../../reel/records.js'
import { rateOf } from '../../reel/document.js'
import type { Span } from '../../spotting/spans.js'
import { sampleToFrame } from '../../time/convert.js'
import type { TurnoverFacts } from '../../contract/turnover.js'

/** How much a finding weighs: it stops the turnover, should be looked at, or is only told. The worst first. */
export const WEIGHTS = ['stops', 'mind', 'tells'] as const
/** One of {@link WEIGHTS}. */
export type Weight = (typeof WEIGHTS)[number]

/** Something that may be wrong with what is about to leave. */
export interface Finding {
  readonly check: string
  readonly weight: Weight
  /** Frames of the reel at which it stands; null where it is of the reel as a whole. */
  readonly at: Span | null
  /** Ids of the records that it speaks of. */
  readonly about: readonly string[]
  /** One sentence: what was found. */
  readonly text: string
}

/** A finding as a check gives it; the table of checks adds which one it was. */
export type Found = Omit<Finding, 'check'>
/** What a check may look at: the document, and what the document does not know. */
export type Check = (doc: ReelDocument, facts: TurnoverFacts) => Found[]

/** The frames in which a sound sounds. */
export function spanOfClip(doc: ReelDocument, clip: Clip): Span {
  const rate = rateOf(doc)
  return { from: sampleToFrame(clip.start, rate), to: sampleToFrame(clip.start + clip.length - 1, rate) + 1 }
}

/** A finding about one sound, at its place. */
export const aboutClip = (doc: ReelDocument, clip: Clip, weight: Weight, text: string): Found => ({
  ...{ weight, text },
  at: spanOfClip(doc, clip),
  about: [clip.id],
})

/** Any record of a document by its id; ids are of one kind only. */
export function recordOf(doc: ReelDocument, id: string): ReelRecord | undefined {
  for (const kind of RECORD_KINDS) {
    const record = doc[kind].get(id)
    if (record) return record
  }
  return undefined
}
