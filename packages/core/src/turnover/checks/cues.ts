import { cuesInOrder, type ReelDocument } from '../../reel/document.js'
import { cueCode } from '../../reel/numbering.js'
import type { Cue } from '../../reel/records.js'
import { coverageOf } from '../../spotting/coverage.js'
import type { Check, Found } from './finding.js'

const aboutCue = (cue: Cue, text: string): Found => ({
  ...{ weight: 'mind', text, about: [cue.id] },
  at: { from: cue.in, to: cue.out },
})
const wanted = (doc: ReelDocument): Cue[] => cuesInOrder(doc).filter((cue) => cue.state !== 'omitted')
/** A cue's code with its words. */
const named = (cue: Cue): string => `${cueCode(cue)}${cue.words ? ` ${cue.words}` : ''}`

/** Cues that nothing is placed for. */
export const findEmptyCues: Check = (doc) =>
  wanted(doc)
    .filter((cue) => coverageOf(doc, cue) === 'nothing')
    .map((cue) => aboutCue(cue, `${named(cue)}: nothing is placed`))

/** Cues of which only a part is covered. */
export const findPartCues: Check = (doc) =>
  wanted(doc)
    .filter((cue) => coverageOf(doc, cue) === 'partly')
    .map((cue) => aboutCue(cue, `${named(cue)}: covered only in part`))

/** Cues that are still open or in work. */
export const findUnreadyCues: Check = (doc) =>
  wanted(doc)
    .filter((cue) => cue.state === 'open' || cue.state === 'work')
    .map((cue) => aboutCue(cue, `${named(cue)}: still ${cue.state === 'open' ? 'open' : 'in work'}`))
