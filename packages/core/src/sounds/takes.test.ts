import { expect, it } from 'vitest'
import type { Category } from '../reel/categories.js'
import { testClip } from '../test/records.js'
import { firstToTry, takeStem } from './takes.js'

const named = (name: string) => ({ id: name, name, category: '', keywords: '' })
const at = (place: number, category: Category | null = null) => ({ place, category })
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
    const first = firstToTry(found, { clip }, at(step * 1000))
    clip.set(`c${step}`, testClip(`c${step}`, 't', { soundId: first?.id ?? '', start: step * 1000 }))
    return first?.name
  })
  expect(laid).toEqual(['Step 2', 'Step 1', 'Step, 3', 'Step 2', 'Step 1'])
})

it('another thing is not taken for being unused, and of nothing nothing is tried', () => {
  const clip = new Map([['c', testClip('c', 't', { soundId: 'Rope' })]])
  expect(firstToTry([rope, named('Chain')], { clip }, at(0))).toBe(rope)
  expect(firstToTry([], { clip }, at(0))).toBeUndefined()
})

it('a background gets a background where one was found, anything else the best', () => {
  const found = ['Signal box door 1', 'Signal box door 2', 'Room tone, signal box'].map(named)
  const nothing = { clip: new Map() }
  expect(firstToTry(found, nothing, at(0, 'BG'))?.name).toBe('Room tone, signal box')
  expect(firstToTry(found, nothing, at(0, 'FX'))?.name).toBe('Signal box door 1')
  expect(firstToTry(found.slice(0, 2), nothing, at(0, 'BG'))?.name).toBe('Signal box door 1')
})
