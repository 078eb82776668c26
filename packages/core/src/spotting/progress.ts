import type { Progress } from '../contract/progress.js'
import { currentCut, type ReelDocument } from '../reel/document.js'
import { cueCode } from '../reel/numbering.js'
import { coverageOf } from './coverage.js'
import { talksOf } from './notes.js'

/**
 * How far a reel has come: its cues as an overview draws them, how many are open, covered and approved, what is asked.
 * Omitted cues are not counted. A cue is covered when its sounds cover it fully.
 */
export function progressOf(doc: ReelDocument): Progress {
  const cues = [...doc.cue.values()].filter(({ state }) => state !== 'omitted').sort((a, b) => a.in - b.in)
  const drawn = cues.map((cue) => ({
    ...{ category: cue.category, from: cue.in, to: cue.out },
    covered: coverageOf(doc, cue) === 'fully',
  }))
  const cut = currentCut(doc)
  return {
    cues: drawn,
    open: cues.filter(({ state }) => state === 'open').length,
    covered: drawn.filter(({ covered }) => covered).length,
    approved: cues.filter(({ state }) => state === 'approved').length,
    questions: talksOf(doc)
      .filter(({ note }) => note.question && !note.closed)
      .map(({ note: { id, words, author, to, at, cueId }, frame }) => {
        const cue = cueId === null ? undefined : doc.cue.get(cueId)
        return { ...{ id, words, author, to, at, frame }, cue: cue ? cueCode(cue) : '' }
      }),
    picture: cut ? { id: cut.pictureId, name: cut.name } : null,
  }
}
