import { writeCsv } from '../formats/csv.js'
import { cuesInOrder, rateOf, reelOf, type ReelDocument } from '../reel/document.js'
import type { CueState } from '../reel/records.js'
import { cueCode } from '../spotting/numbering.js'
import { coverageOf } from '../spotting/coverage.js'
import { formatLength, formatTimecode } from '../time/timecode.js'

/** How lists and screens name the states. */
export const STATE_NAMES: Readonly<Record<CueState, string>> = { open: 'open', work: 'in work', ready: 'ready', approved: 'approved', omitted: 'omitted' }

/** The cue list as CSV: one line a cue, in the order of time, omitted ones included and marked. */
export function cueListCsv(doc: ReelDocument): string {
  const rate = rateOf(doc)
  const first = reelOf(doc).firstFrame
  const tc = (frame: number): string => formatTimecode(first + frame, rate)
  const heads = ['Cue', 'Category', 'In', 'Out', 'Sync', 'Length', 'What is heard', 'Made by', 'Where', 'On screen', 'Notes', 'Priority', 'Who', 'State', 'Reason', 'Covered']
  const rows = cuesInOrder(doc).map((cue) => [
    cueCode(cue),
    cue.category,
    tc(cue.in),
    tc(cue.out),
    tc(cue.sync),
    formatLength(cue.out - cue.in, rate),
    cue.words,
    cue.source,
    cue.where,
    cue.onScreen === 'unsaid' ? '' : cue.onScreen,
    cue.notes,
    cue.priority,
    cue.by,
    STATE_NAMES[cue.state],
    cue.omitReason,
    coverageOf(doc, cue),
  ])
  return writeCsv([heads, ...rows])
}
