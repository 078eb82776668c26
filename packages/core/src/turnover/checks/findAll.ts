import type { TurnoverFacts } from '../../contract/turnover.js'
import type { ReelDocument } from '../../reel/document.js'
import { findOutOfBounds } from './bounds.js'
import { findEmptyCues, findPartCues, findUnreadyCues } from './cues.js'
import { findAttacks, findClicks } from './edges.js'
import { WEIGHTS, type Check, type Finding } from './finding.js'
import { findHandles } from './handles.js'
import { findLeader } from './leader.js'
import { findLoudness, findPeaks } from './levels.js'
import { findLicences } from './licences.js'
import { findMedia } from './media.js'
import { findQuestions } from './questions.js'
import { findRates } from './rates.js'
import { findRepeats } from './repeats.js'
import { findSilence } from './silence.js'
import { findLooseSounds, findOffSync, findShortSounds } from './sounds.js'
import { findTemporary } from './temporary.js'

/** A check as the table lists it; `asked` says whether it was looked for at all, where that is not always so. */
type Listed = readonly [id: string, title: string, find: Check, asked?: (facts: TurnoverFacts) => boolean]

/** Everything that is looked at before a reel leaves the room: the word that a finding carries, its heading, and what looks. */
export const CHECKS: readonly Listed[] = [
  ['media', 'Recordings that are not there, or not what they were', findMedia],
  ['rates', 'Picture and reel', findRates],
  ['bounds', 'Before the programme or past the end', findOutOfBounds],
  ['silence', 'Solos, mutes and treatment passed by', findSilence],
  ['peaks', 'Over the true peak', findPeaks, ({ mix, recipe }) => mix !== null && recipe.truePeak !== null],
  ['loudness', 'Loudness', findLoudness, ({ mix, recipe }) => mix !== null && recipe.loudness !== null],
  ['empty', 'Cues with nothing placed', findEmptyCues],
  ['part', 'Cues covered only in part', findPartCues],
  ['loose', 'Sounds without a cue', findLooseSounds],
  ['short', 'Sounds shorter than their cue', findShortSounds],
  ['sync', 'Off the sync frame', findOffSync],
  ['attacks', 'Attacks that are faded or cut', findAttacks],
  ['clicks', 'Hard cuts inside something loud', findClicks],
  ['licences', 'Licences', findLicences],
  ['questions', 'Open questions', findQuestions],
  ['unready', 'Cues not ready yet', findUnreadyCues],
  ['temporary', 'Scratch and temporary material', findTemporary],
  ['repeats', 'The same recording soon again', findRepeats],
  ['leader', 'Leader and 2-pop', findLeader],
  ['handles', 'Handles', findHandles, ({ recipe }) => recipe.handles > 0],
]

/** The checks that were made, and those that nothing was asked of or known for. */
export const checksMade = (facts: TurnoverFacts): { made: string[]; left: string[] } => {
  const isMade = ([, , , asked]: Listed): boolean => asked?.(facts) ?? true
  const ids = (checks: readonly Listed[]): string[] => checks.map(([id]) => id)
  return { made: ids(CHECKS.filter(isMade)), left: ids(CHECKS.filter((check) => !isMade(check))) }
}

/** The heading of a check. */
export const checkTitle = (id: string): string => CHECKS.find(([own]) => own === id)?.[1] ?? id

/** All findings of a reel: the worst first, then check by check, each in the order of time. */
export function findingsOf(doc: ReelDocument, facts: TurnoverFacts): Finding[] {
  const found = CHECKS.flatMap(([check, , find]) =>
    find(doc, facts)
      .map((one): Finding => ({ ...one, check }))
      .sort((a, b) => (a.at?.from ?? -1) - (b.at?.from ?? -1)),
  )
  return WEIGHTS.flatMap((weight) => found.filter((finding) => finding.weight === weight))
}
