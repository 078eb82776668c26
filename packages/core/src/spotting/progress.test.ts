import { expect, it } from 'vitest'
import { documentOf, recordsOf } from '../reel/document.js'
import { frames } from '../time/units.js'
import type { Cue, Note } from '../reel/records.js'
import { testClip, testTrack } from '../test/records.js'
import { testReel } from '../test/testReel.js'
import { blankCue } from './blankCue.js'
import { progressOf } from './progress.js'

it('tells how far a reel has come: omitted cues are not counted, questions until they are closed', () => {
  const empty = testReel({ rate: '24' })
  expect(progressOf(empty)).toEqual({
    ...{ cues: [], open: 0, covered: 0, approved: 0, questions: [], picture: null },
  })
  const cue = (id: string, at: number, fields: Partial<Cue> = {}): Cue => ({
    ...blankCue({ category: 'FX', number: 7, in: at, out: at + 12, sync: at }),
    ...{ id, ...fields },
  })
  const note = (id: string, fields: Partial<Note>): Note => ({
    ...{ kind: 'note', id, cueId: null, frame: frames(0), words: 'Which door?', author: 'Mara', to: '' },
    ...{ question: true, closed: false, replyTo: null, at: '2031-05-09T12:00:00Z', ...fields },
  })
  const doc = documentOf([
    ...recordsOf(empty),
    cue('late', 240, { state: 'approved', category: 'FOL' }),
    cue('early', 24),
    cue('gone', 48, { state: 'omitted' }),
    testTrack('t'),
    testClip('c', 't', { cueId: 'early', start: 48_000, length: 48_000 }),
    note('n', { cueId: 'early' }),
    note('closed', { closed: true }),
    note('told', { question: false }),
  ])
  expect(progressOf(doc)).toMatchObject({
    cues: [
      { category: 'FX', from: 24, to: 36, covered: true },
      { category: 'FOL', from: 240, to: 252, covered: false },
    ],
    ...{ open: 1, covered: 1, approved: 1 },
    questions: [{ id: 'n', words: 'Which door?', author: 'Mara', frame: 24, cue: 'FX 007' }],
  })
})
