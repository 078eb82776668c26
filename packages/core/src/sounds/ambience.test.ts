import { describe, expect, it } from 'vitest'
import type { Preparation } from '../contract/sounds.js'
import { clipAtFrame } from '../edits/placeSound.js'
import { spotCue } from '../edits/spotCue.js'
import type { Category } from '../reel/categories.js'
import { after } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { frames } from '../time/units.js'
import { preparedFor } from './ambience.js'
import { prepareSound, UNPREPARED } from './prepared.js'

const FRAME = 2000
/** A minute of rain, its loudest drop at twelve seconds. */
const rain = { id: 'r', name: 'Rain', length: 60 * 48_000, sync: 12 * 48_000 }

/** Where the rain would lie for a cue of frames 100 to 340, as `[start, length]` in frames of the reel, and its fades in seconds. */
function laid(
  preparation: Partial<Preparation>,
  { category = 'BG' as Category, sync = 100, press = false } = {},
) {
  let doc = after(testReel(), spotCue(testReel(), { id: 'q', category, in: 100, out: press ? 101 : 340 }))
  doc = after(doc, spotCue(doc, { id: 'next', category: 'BG', in: 700, out: 800 }))
  const cue = { ...doc.cue.get('q')!, sync: frames(sync) }
  const sound = prepareSound(rain, preparedFor(doc, cue, rain, { ...UNPREPARED, ...preparation }))
  const clip = clipAtFrame(doc, { id: 'c', trackId: 't', cueId: 'q', frame: sync, sound })
  return {
    at: [clip.start / FRAME, clip.length / FRAME],
    fades: [clip.fadeIn / 48_000, clip.fadeOut / 48_000],
    offset: clip.offset / 48_000,
  }
}

describe('a background', () => {
  it('begins where its cue does, whatever is loud in it, lasts as long and fades at its ends', () => {
    expect(laid({})).toEqual({ at: [100, 240], fades: [0.5, 0.5], offset: 0 })
    expect(laid({}, { sync: 148 }).at).toEqual([100, 240])
  })
  it.each([
    ['twice as fast', { speed: 2 }],
    ['at half its speed', { speed: 0.5 }],
    ['backwards', { reverse: true }],
    ['backwards and faster', { reverse: true, speed: 1.5 }],
  ])('%s lies there too', (_, how) => {
    expect(laid(how).at).toEqual([100, 240])
    expect(laid(how, { sync: 148 }).at).toEqual([100, 240])
  })
  it('begins with the in that was set and ends with the out, its own fades kept', () => {
    expect(laid({ in: 20 * 48_000 })).toEqual({ at: [100, 240], fades: [0.5, 0.5], offset: 20 })
    expect(laid({ out: 4 * 48_000, fadeIn: 48_000 })).toMatchObject({ at: [100, 96], fades: [1, 0.5] })
    expect(laid({ in: 59.5 * 48_000 })).toMatchObject({ at: [100, 12], fades: [0.25, 0.25] })
  })
  it('that was given a sync point meets the cue with that, and keeps its attack', () => {
    expect(laid({ sync: 2 * 48_000 })).toMatchObject({ at: [52, 240], fades: [0.002, 0.01] })
  })
  it('lasts until the next one where its cue was only pressed', () => {
    expect(laid({}, { press: true }).at).toEqual([100, 600])
  })
})

it('a sound for any other cue, and for none, is taken as it is', () => {
  expect(laid({}, { category: 'FX' }).at).toEqual([0, 60 * 24 - (12 * 24 - 100)])
  expect(preparedFor(testReel(), null, rain, UNPREPARED)).toBe(UNPREPARED)
})
