import { describe, expect, it } from 'vitest'
import type { ScratchLine } from '../contract/voices.js'
import { editCue, editTrack } from '../edits/editRecords.js'
import { moveClips } from '../edits/moveClips.js'
import { shapeClips } from '../edits/shapeClips.js'
import { spotCue } from '../edits/spotCue.js'
import { swapClips } from '../edits/swapClips.js'
import type { ReelDocument } from '../reel/document.js'
import { after } from '../test/after.js'
import { testReel } from '../test/testReel.js'
import { FRAME_RATES } from '../time/rates.js'
import { frames } from '../time/units.js'
import { NO_AIMS } from '../contract/turnover.js'
import { findTemporary } from '../turnover/checks/temporary.js'
import { joinSpeech, nextStretch, pauseScale, STRETCHES, trimSpeech } from './fitSpeech.js'
import { isStale, layScratch, scratchOf, secondsOfLine, type MadeLine } from './layScratch.js'
import { scratchIn } from './scratch.js'
import { BLANK_LINE, speechOf, spokenWords } from './speech.js'

describe('a text', () => {
  it.each<[string, ReturnType<typeof speechOf>]>([
    ['Hold it there.', [{ words: 'Hold it there.' }]],
    ['Hold it (1.5) there.', [{ words: 'Hold it' }, { pause: 1.5 }, { words: 'there.' }]],
    ['Hold (0,25 s) it', [{ words: 'Hold' }, { pause: 0.25 }, { words: 'it' }]],
    ['One\nand on.\n \n\nTwo', [{ words: 'One and on.' }, { pause: BLANK_LINE }, { words: 'Two' }]],
    ['One\r\n\r\nTwo', [{ words: 'One' }, { pause: BLANK_LINE }, { words: 'Two' }]],
    ['(999) Ready', [{ pause: 60 }, { words: 'Ready' }]],
    // In 1987 (the year) is no pause of a thousand seconds, and what is only signs is not said.
    ['In (1987) …', [{ words: 'In (1987) …' }]],
    ['— … !', []],
  ])('%j is said as %j', (text, pieces) => {
    expect(speechOf(text)).toEqual(pieces)
  })
  it.each([
    ["[[h@l'oU]] there", "h l'oU there"],
    ['<break time="10s"/> now', 'break time "10s"/ now'],
    ['\\pau=9000\\ go | rm `x` {y} ^z~', 'pau 9000 go rm x y z'],
  ])('%j holds no order to an engine', (text, words) => {
    expect(speechOf(text)).toEqual([{ words }])
  })
  it.each([
    ['“Nine. She always sticks.”', 'Nine. She always sticks.'],
    ['Signalman: "Who goes?" and, louder, "Who goes there?"', 'Who goes? Who goes there?'],
    ['SIGNALMAN: Hold it there.', 'Hold it there.'],
    ['Old man 2: (whispers) Not (0.5) yet (beat)', 'Not (0.5) yet'],
    ['At 10:30: the train', 'At 10:30: the train'],
    ['»Halt!«', 'Halt!'],
    ['', ''],
  ])('of a cue %j says %j', (words, said) => {
    expect(spokenWords(words)).toBe(said)
  })
})

describe('speech', () => {
  it('loses the silence around it and nothing else, and is joined to the sample', () => {
    const rate = 16_000
    const said = new Float32Array(rate)
    for (let at = 4000; at < 8000; at++) said[at] = Math.sin(at) * 0.5
    // Softer than -50 dB below the loudest is no voice.
    said[100] = 0.5 * 10 ** (-52 / 20)
    const trimmed = trimSpeech(said, rate)
    expect(trimmed.length / rate).toBeCloseTo(0.25 + 0.02, 3)
    expect(trimmed[160]).toBe(said[4000])
    expect(trimSpeech(new Float32Array(50), rate)).toHaveLength(0)
    const joined = joinSpeech([trimmed, 0.5, trimmed], rate)
    expect(joined).toHaveLength(2 * trimmed.length + rate / 2)
    expect(joined.subarray(trimmed.length + rate / 2)).toEqual(trimmed)
    expect(Math.max(...joined.subarray(trimmed.length, trimmed.length + rate / 2))).toBe(0)
  })
  it('comes to the length it should have where the engine does what it is told, and stays followable', () => {
    // An engine that is not quite linear: words keep a tenth of a second of their own.
    const spoken = (stretch: number): number => 0.1 + 2 * stretch
    let stretch = 1
    for (let round = 0; round < 5; round++)
      stretch = nextStretch(stretch, { spoken: spoken(stretch), pauses: 0.5, wanted: 3.5 })
    expect(spoken(stretch) + 0.5).toBeCloseTo(3.5, 3)
    expect(nextStretch(1, { spoken: 2, pauses: 0, wanted: 60 })).toBe(STRETCHES.longest)
    expect(nextStretch(1, { spoken: 2, pauses: 1, wanted: 0.5 })).toBe(STRETCHES.shortest)
    expect([pauseScale(1, 4), pauseScale(4, 4)]).toEqual([1, 0.5])
  })
})

describe('scratch voices on a reel', () => {
  const LINE: ScratchLine = { text: '', voice: 'espeak-ng en-gb', pace: 'cue', pitch: 0 }
  const made = (
    cueId: string,
    id: string,
    fields: Partial<ScratchLine> = {},
    recorded = 96_000,
  ): MadeLine => ({
    ...{ cueId, id, newTrackId: `track ${id}`, line: { ...LINE, ...fields } },
    said: fields.text || `Line ${cueId}.`,
    sound: { id: `sound ${id}`, name: `Scratch ${id}`, recorded, sync: 0, from: 0, to: recorded },
  })
  const spot = (doc: ReelDocument, id: string, from: number, out: number): ReelDocument =>
    after(doc, spotCue(doc, { id, category: 'DX', in: from, out, words: `MAN: Line ${id}.` }))
  const reel = spot(spot(spot(testReel(), 'a', 100, 148), 'b', 130, 178), 'c', 400, 448)
  const laid = after(reel, layScratch(reel, { lines: [made('a', '1'), made('b', '2'), made('c', '3')] }))

  it('lie at the syncs of their cues, on tracks of their own, and are temporary to a turnover', () => {
    const placed = ['a', 'b', 'c'].map((id) => scratchOf(laid, id)!)
    expect(placed.map((clip) => [clip.start, scratchIn(clip)?.said])).toEqual([
      [100 * 2000, 'Line a.'],
      [130 * 2000, 'Line b.'],
      [400 * 2000, 'Line c.'],
    ])
    // The second comes while the first speaks; the third finds the first track free.
    expect(placed.map(({ trackId }) => laid.track.get(trackId)?.name)).toEqual([
      'Scratch voice',
      'Scratch voice 2',
      'Scratch voice',
    ])
    const own = after(laid, editTrack(laid, { id: 'track 1', fields: { name: 'Dialogue' } }))
    const told = findTemporary(own, {
      sounds: [],
      picture: null,
      mix: null,
      edges: [],
      recipe: NO_AIMS,
    }).flatMap(({ about }) => about)
    expect(told.toSorted()).toEqual(['1', '2', '3'])
  })
  it('are stale when the words of the cue change, unless they have words of their own', () => {
    const changed = after(laid, editCue(laid, { id: 'a', fields: { words: 'MAN: Another line.' } }))
    const isStaleNow = (doc: ReelDocument, id: string): boolean =>
      isStale(scratchOf(doc, id)!, doc.cue.get(id)!)
    expect([isStaleNow(laid, 'a'), isStaleNow(changed, 'a'), isStaleNow(changed, 'b')]).toEqual([
      false,
      true,
      false,
    ])
    const own = after(changed, layScratch(changed, { lines: [made('a', '4', { text: 'Mine.' })] }))
    expect([scratchIn(scratchOf(own, 'a')!)?.said, isStaleNow(own, 'a')]).toEqual(['Mine.', false])
  })
  it('said anew take the place of the old ones, wherever those were moved, with their level', () => {
    const moved = after(laid, moveClips(laid, { ids: ['1'], by: 4800 }))
    const softer = after(moved, shapeClips(moved, { ids: ['1'], fields: { gain: -6 } }))
    const again = after(softer, layScratch(softer, { lines: [made('a', 'new', { pitch: 3 }, 40_000)] }))
    expect(again.clip.size).toBe(3)
    expect(again.clip.get('1')).toMatchObject({
      ...{ start: 100 * 2000 + 4800, length: 40_000, gain: -6, trackId: 'track 1', soundId: 'sound new' },
    })
    expect(scratchIn(again.clip.get('1')!)).toEqual({ ...LINE, pitch: 3, said: 'Line a.' })
    // The actor takes over: what is swapped in is no scratch voice any more.
    const actor = { id: 'actor', name: 'Take 3', recorded: 50_000, sync: 0 }
    const swapped = after(again, swapClips(again, { swaps: [{ id: '1', sound: actor }] }))
    expect([swapped.clip.get('1')?.scratch, scratchOf(swapped, 'a')]).toEqual(['', null])
  })
  it('take as long as from the sync to the out; a sync at the out counts from the in', () => {
    expect(secondsOfLine({ in: frames(100), sync: frames(112), out: frames(148) }, FRAME_RATES['24'])).toBe(
      1.5,
    )
    expect(secondsOfLine({ in: frames(100), sync: frames(148), out: frames(148) }, FRAME_RATES['24'])).toBe(2)
  })
  it('are refused where their cue is gone or they would begin after the reel', () => {
    expect(layScratch(laid, { lines: [made('gone', '9')] })).toMatchObject({ ok: false })
    expect(layScratch(laid, { lines: [] })).toMatchObject({ ok: false })
  })
})
