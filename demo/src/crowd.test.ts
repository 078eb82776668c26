import { expect, it } from 'vitest'
import { CROWD_REEL, crowdRecords } from './crowd.js'

const soundOf = (name: string) => ({ id: name, name, recorded: 96_000, sync: 4800 })

it('the crowd is as large as it says, lies within its reel, and is the same every time', () => {
  const records = crowdRecords(null, soundOf)
  const count = (kind: string): number => records.filter((record) => record.kind === kind).length
  expect([count('track'), count('cue'), count('clip')]).toEqual([12, 400, 900])
  const last = Math.max(...records.map((record) => (record.kind === 'cue' ? record.out : 0)))
  expect(last).toBeLessThan(CROWD_REEL.length)
  expect(new Set(records.map((record) => (record.kind === 'cue' ? record.words : ''))).size).toBeGreaterThan(
    200,
  )
  expect(crowdRecords(null, soundOf)).toEqual(records)
})
