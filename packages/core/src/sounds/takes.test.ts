import { expect, it } from 'vitest'
import { testClip } from '../test/records.js'
import { firstToTry, takeStem } from './takes.js'

const named = (name: string) => ({ id: name, name })
const rope = named('Rope')

it('a number at the end tells takes of one thing apart', () => {
  expect(['Boot on gravel 12', 'Boot on gravel', 'Couplings, 3', 'Bay 9 door'].map(takeStem)).toEqual([
    ...['Boot on gravel', 'Boot on gravel', 'Couplings', 'Bay 9 door'],
  ])
})

it('steps that are tried one after the other go round the takes, the best one first', () => {
  const found = ['Step 2', 'Rope', 'Step 1', 'Step, 3'].map(named)
  const clip = new Map<string, ReturnType<typeof testClip>>()
  const laid = Array.from({ length: 5 }, (_, step) => {
    const first = firstToTry(found, { clip }, step * 1000)
    clip.set(`c${step}`, testClip(`c${step}`, 't', { soundId: first?.id ?? '', start: step * 1000 }))
    return first?.name
  })
  expect(laid).toEqual(['Step 2', 'Step 1', 'Step, 3', 'Step 2', 'Step 1'])
})

it('another thing is not taken for being unused, and of nothing nothing is tried', () => {
  const clip = new Map([['c', testClip('c', 't', { soundId: 'Rope' })]])
  expect(firstToTry([rope, named('Chain')], { clip }, 0)).toBe(rope)
  expect(firstToTry([], { clip }, 0)).toBeUndefined()
})
