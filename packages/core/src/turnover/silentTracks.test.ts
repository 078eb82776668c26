import { expect, it } from 'vitest'
import { planReel } from '../audio/plan.js'
import { editTrack } from '../edits/editRecords.js'
import { endSolos, unmuteTracks } from '../edits/editTracks.js'
import { shapeClips } from '../edits/shapeClips.js'
import { after, placed } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { silentTracks } from './silentTracks.js'

const three = placed(placed(placed(testReel(), 'a', 100), 'b', 100), 'c', 100)
const set = (doc: typeof three, id: string, fields: { mute?: boolean; solo?: boolean }) =>
  after(doc, editTrack(doc, { id, fields }))
const names = (doc: typeof three): [string, string][] =>
  silentTracks(doc).map(({ track, why }) => [track.id, why])

it('names the tracks that a mix leaves out, and why; the mix leaves out the same', () => {
  expect(names(three)).toEqual([])
  const soloed = set(set(three, 't-b', { solo: true }), 't-c', { mute: true })
  expect(names(soloed)).toEqual([
    ['t-a', 'not soloed'],
    ['t-c', 'muted'],
  ])
  const sounding = planReel(soloed).strips.filter((strip) => strip.voices.length > 0)
  expect(sounding).toHaveLength(1)
  expect(names(set(three, 't-a', { mute: true, solo: true }))).toEqual([
    ['t-a', 'muted'],
    ['t-b', 'not soloed'],
    ['t-c', 'not soloed'],
  ])
})

it('passes over tracks on which nothing would sound anyway', () => {
  const quiet = after(three, shapeClips(three, { ids: ['a'], fields: { mute: true } }))
  expect(names(set(quiet, 't-a', { mute: true }))).toEqual([])
})

it('all solos end in one act, and nothing is silent but what is muted', () => {
  const soloed = set(set(set(three, 't-b', { solo: true }), 't-a', { solo: true }), 't-c', { mute: true })
  const ended = after(soloed, endSolos(soloed))
  expect(names(ended)).toEqual([['t-c', 'muted']])
  expect(names(after(ended, unmuteTracks(ended)))).toEqual([])
})
