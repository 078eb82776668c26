import type { Hit } from '@yodel/core'
import { expect, it } from 'vitest'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { performedFollower, performedIn } from './performed.js'
import { performActions, performReducer } from './performSlice.js'

const sound = { id: 's', name: 's', length: 30_000, sync: 480 }
const state = [performActions.toggle(), performActions.setSounds({ asked: ['s'], found: [sound] })].reduce(
  performReducer,
  performReducer(undefined, performActions.begin()),
)
const hit = (at: number): Hit => ({
  ...{
    poolId: 'p',
    category: 'FOL',
    soundId: 's',
    name: 's',
    part: null,
    gain: 0,
    speed: 1,
    at,
    length: null,
  },
})
const laid = (from: ReturnType<typeof performedIn>) =>
  from?.clips.map(({ start, trackId, id }) => [start, from.doc.track.get(trackId)?.name, id]) ?? null

it('followed hit by hit, the same lies there as if all had been hit at once, also when hits go and change', () => {
  const doc = testReel()
  const follow = performedFollower()
  const hits: Hit[] = []
  for (let at = 400_000; at < 800_000; at += 17_000) {
    hits.push(hit(at))
    const all = performedIn(doc, [...hits], state)
    const followed = follow(doc, [...hits], state)
    expect(followed?.doc.clip.size).toBe(all?.doc.clip.size)
    expect(followed?.clips.map(({ start }) => start)).toEqual(all?.clips.map(({ start }) => start))
    expect(new Set(followed?.clips.map(({ id }) => id)).size).toBe(hits.length)
  }
  const fewer = hits.slice(3)
  expect(laid(follow(doc, fewer, state))).toEqual(laid(performedIn(doc, fewer, state)))
  expect(follow(doc, [], state)).toBeNull()
  expect(laid(follow(doc, hits, state))).toEqual(laid(performedIn(doc, hits, state)))
})
