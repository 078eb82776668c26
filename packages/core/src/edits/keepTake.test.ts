import { describe, expect, it } from 'vitest'
import { expectOk } from '../errors.js'
import { apply, invert } from '../reel/change.js'
import { documentOf, recordsOf, type ReelDocument } from '../reel/document.js'
import { checkChange } from '../reel/invariants.js'
import { frames } from '../time/units.js'
import { keepTake, type Performed } from './keepTake.js'

const FRAME = 2000
const reel = documentOf([
  {
    ...{
      kind: 'reel',
      id: 'r',
      show: 'S',
      name: 'R',
      rate: '24',
      firstFrame: frames(0),
      programme: frames(0),
    },
    ...{ length: frames(2400), pictureId: null, company: '', nameRule: '' },
  },
])
const step = (at: number, category: Performed['category'] = 'FOL'): Performed => ({
  ...{ category, at },
  sound: { id: 's', name: 'Boot', recorded: 20_000, sync: 1000, from: 0, to: 20_000 },
})
const kept = (
  performed: Performed[],
  cues: 'run' | 'each' | 'none',
): { doc: ReelDocument; label: string } => {
  let count = 0
  const change = expectOk(
    keepTake(reel, {
      performed,
      cues,
      words: 'Walks up',
      newId: () => `n${String(++count).padStart(3, '0')}`,
    }),
  )
  const doc = expectOk(apply(reel, change))
  expect(checkChange(doc, change).ok).toBe(true)
  expect(recordsOf(expectOk(apply(doc, invert(change))))).toEqual(recordsOf(reel))
  return { doc, label: change.label }
}
const walk = [30 * FRAME + 700, 60 * FRAME, 36 * FRAME + 1].map((at) => step(at))

describe('what was performed', () => {
  it('is laid with each attack on its very sample, over nothing, as one step', () => {
    const { doc, label } = kept(walk, 'none')
    const attacks = [...doc.clip.values()].map(({ start, sync, offset }) => start + sync - offset)
    expect(attacks.toSorted((a, b) => a - b)).toEqual([30 * FRAME + 700, 36 * FRAME + 1, 60 * FRAME])
    // The second comes while the first still sounds, so it lies beside it; the third is free again.
    expect([doc.track.size, doc.cue.size, label]).toEqual([2, 0, 'Keep what was performed, 3 sounds'])
  })
  it('has one cue for the run of each category', () => {
    const { doc } = kept([...walk, step(90 * FRAME, 'FX')], 'run')
    const cues = [...doc.cue.values()].map(({ category, in: first, out, words }) => [
      category,
      first,
      out,
      words,
    ])
    expect(cues).toEqual([
      ['FOL', 30, 70, 'Walks up'],
      ['FX', 90, 100, 'Walks up'],
    ])
    const [run] = doc.cue.values()
    expect([...doc.clip.values()].filter(({ cueId }) => cueId === run?.id)).toHaveLength(3)
  })
  it('or a cue for each', () => {
    const { doc } = kept(walk, 'each')
    expect([...doc.cue.values()].map((cue) => cue.in)).toEqual([30, 36, 60])
    for (const clip of doc.clip.values()) expect(doc.cue.get(clip.cueId ?? '')?.words).toBe('Boot')
  })
  it('is refused when there is nothing', () => {
    expect(keepTake(reel, { performed: [], cues: 'none', words: '', newId: () => 'x' }).ok).toBe(false)
  })
})
