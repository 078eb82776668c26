import { describe, expect, it } from 'vitest'
import { placeSound } from '../edits/placeSound.js'
import { spotCue } from '../edits/spotCue.js'
import { expectOk } from '../errors.js'
import { apply } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import { testReel } from '../test/testReel.js'
import { FRAME_RATES } from '../time/rates.js'
import { placeMarks } from './marks.js'
import { overviewBins, silences } from './overview.js'

describe('the overview', () => {
  it('counts every cue once, in the stretch where it begins', () => {
    let doc: ReelDocument = testReel({ length: 1000 })
    const places = [0, 99, 100, 333, 334, 999, 999]
    for (const [index, at] of places.entries())
      doc = expectOk(
        apply(
          doc,
          expectOk(spotCue(doc, { id: `q${index}`, category: index % 2 ? 'BG' : 'FX', in: at, out: at + 1 })),
        ),
      )
    for (const count of [1, 3, 7, 10, 999]) {
      const bins = overviewBins(doc, count)
      expect(bins.reduce((sum, bin) => sum + (bin.counts.FX ?? 0) + (bin.counts.BG ?? 0), 0)).toBe(
        places.length,
      )
      for (const bin of bins)
        expect(places.filter((at) => at >= bin.from && at < bin.to)).toHaveLength(bin.states.open ?? 0)
    }
  })
  it('shows where nothing sounds within the programme', () => {
    const doc = testReel({ length: 480, programme: 48 })
    const sound = { id: 's', name: 's', recorded: 96_000, sync: 0 }
    // Two seconds from frame 240: until then, and after it, silence.
    const placed = expectOk(
      apply(
        doc,
        expectOk(
          placeSound(doc, { id: 'c', newTrackId: 't', category: 'FX', cueId: null, frame: 240, sound }),
        ),
      ),
    )
    expect(silences(placed, 24)).toEqual([
      { from: 48, to: 240 },
      { from: 288, to: 480 },
    ])
    const muted = { ...placed, track: new Map([['t', { ...placed.track.get('t')!, mute: true }]]) }
    expect(silences(muted, 24)).toEqual([{ from: 48, to: 480 }])
  })
})

describe('marks on the reel', () => {
  it('stand where the picture stands, each at the nearest frame, whatever the movie’s own rate', () => {
    const found = { onsets: [{ at: 0 }, { at: 2990 }, { at: 3010 }, { at: 3020 }], cuts: [0, 25] }
    expect(placeMarks(found, FRAME_RATES['24'], FRAME_RATES['24'], 10)).toEqual({
      onsets: [10, 11, 12],
      cuts: [10, 35],
    })
    // Frame 25 at 25 fps is one second, frame 24 of the reel; what stands before the reel is left out.
    expect(placeMarks(found, FRAME_RATES['24'], FRAME_RATES['25'], -1)).toEqual({
      onsets: [0, 1],
      cuts: [23],
    })
  })
})
