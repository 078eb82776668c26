import {
  isToDraft,
  keepTake,
  layDraft,
  stepsOf,
  takeStem,
  type Change,
  type Performed,
  type ReelDocument,
  type Result,
} from '@yodel/core'
import type { DraftEntry, DraftState } from './draftSlice.js'
import { TRIED, triedBy, type Tried } from './tried.js'

/** So many takes of one thing go round in steps. */
const TAKES = 8

/** What is said of the cue that is looked at; null while none is. */
export const shownEntry = ({ entries, shown }: DraftState): DraftEntry | null =>
  entries.find(({ cueId }) => cueId === shown) ?? null

/** Says whether a choice can still be kept: it was found, was not skipped, and its cue has no sound by now. */
export function isOpen(
  doc: Pick<ReelDocument, 'reel' | 'clip' | 'cue'>,
  { cueId, ranked, skipped }: DraftEntry,
): boolean {
  const cue = doc.cue.get(cueId)
  return !skipped && ranked.length > 0 && cue !== undefined && isToDraft(doc, cue)
}

/** Choices that can be kept and are at least as sure as the line. */
export const choicesAbove = (
  doc: Pick<ReelDocument, 'reel' | 'clip' | 'cue'>,
  { entries, line }: DraftState,
): DraftEntry[] =>
  entries.filter((entry) => isOpen(doc, entry) && (entry.ranked[entry.at]?.sure ?? 0) >= line)

/** What the choice for a cue lays, where the cue is now. */
function performedBy(
  doc: ReelDocument,
  { cueId, ranked, at, events }: DraftEntry,
  onsets: readonly number[],
): Performed[] {
  const cue = doc.cue.get(cueId)
  const choice = ranked[at]?.sound
  if (!cue || !choice) return []
  const takes = ranked
    .map(({ sound }) => sound)
    .filter(({ name }) => takeStem(name) === takeStem(choice.name))
    .slice(0, TAKES)
  return layDraft(doc, cue, choice, { steps: stepsOf(doc, cue, onsets), takes, events })
}

/** The edit that keeps the choice for a cue. Showing it is the same edit, on a document that nobody saves. */
export function keepDrafted(
  doc: ReelDocument,
  entry: DraftEntry,
  onsets: readonly number[],
  newId: () => string,
): Result<Change> {
  const performed = performedBy(doc, entry, onsets)
  const steps = performed.length > 1 ? `, ${performed.length} steps` : ''
  const label = `Keep ${entry.ranked[entry.at]?.sound.name ?? ''}${steps}`
  return keepTake(doc, { performed, cues: 'none', words: '', newId, cueId: entry.cueId, label })
}

/** The choice that is looked at, where it would be kept; null while none is, or when it could not be kept. */
export function draftTriedIn(
  doc: ReelDocument,
  entry: DraftEntry | null,
  onsets: readonly number[],
): Tried | null {
  if (!entry) return null
  let count = 0
  return triedBy(
    doc,
    keepDrafted(doc, entry, onsets, () => `${TRIED}draft ${count++}`),
  )
}
