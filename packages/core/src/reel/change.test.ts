import { describe, expect, it } from 'vitest'
import { bendClips } from '../edits/bendClips.js'
import { copyClips, duplicateClips, pasteClips, repeatClip } from '../edits/copyClips.js'
import { crossfadeClips } from '../edits/crossfade.js'
import { neighbourAt, rollBoundary, slipClip, splitClips } from '../edits/cutClips.js'
import { deleteRecords } from '../edits/deleteRecords.js'
import { addInsert, editInsert, moveInsert } from '../edits/editInserts.js'
import { freezeColumns, moveTrack, removeEmptyTracks, thawColumns } from '../edits/editTracks.js'
import { keepLayers } from '../edits/keepLayers.js'
import { layEvents } from '../edits/layEvents.js'
import { copyRide, drawRide, editRidePoint, layRide, liftRide, type RideMoment } from '../edits/rides.js'
import { rankCandidate, remarkCandidate, shortlistSound } from '../edits/shortlist.js'
import { swapClips } from '../edits/swapClips.js'
import { editCue } from '../edits/editRecords.js'
import { moveAcross, moveClips } from '../edits/moveClips.js'
import { placeSound } from '../edits/placeSound.js'
import { shapeClips } from '../edits/shapeClips.js'
import { spotCue } from '../edits/spotCue.js'
import { groupClips, keepStack, swapStack } from '../edits/stacks.js'
import { trimClip } from '../edits/trimClip.js'
import { expectOk, type Result } from '../errors.js'
import { CATEGORIES } from './categories.js'
import { testReel } from '../test/testReel.js'
import { apply, emptyChange, invert, squash, type Change } from './change.js'
import { clipsByGroup, documentOf, recordsOf, type ReelDocument } from './document.js'
import { stacksFromLog, type LogEntry } from './history.js'
import { recordSchema, RIDE_BENDS } from './records.js'
import { checkChange, checkClip, mayMeet } from './invariants.js'

/** Small linear congruential generator: the seed stands in the title, so a failure can be run again. */
function seeded(seed: number): (below: number) => number {
  let state = seed
  return (below) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648
    return Math.floor((state / 2_147_483_648) * below)
  }
}

function randomEdit(doc: ReelDocument, pick: (below: number) => number, step: number): Result<Change> {
  const cues = [...doc.cue.keys()]
  const clips = [...doc.clip.keys()]
  const clip = clips[pick(clips.length)] ?? 'none'
  const cue = cues[pick(cues.length)] ?? 'none'
  const category = CATEGORIES[pick(6)] ?? 'FX'
  const ids = [...new Set([clip, clips[pick(clips.length)] ?? clip])]
  const track = [...doc.track.keys()][pick(doc.track.size)] ?? 'none'
  let made = 0
  const newId = (): string => `n${step}-${made++}`
  const recorded = 1000 + pick(200_000)
  const sound = { id: `s${pick(3)}`, name: 's', recorded, sync: pick(recorded) }
  switch (pick(35)) {
    case 26:
      return addInsert(doc, {
        id: `i${step}`,
        on: pick(2) ? track : 'whole',
        effect: (['equaliser', 'limiter'] as const)[pick(2)] ?? 'limiter',
      })
    case 27: {
      const insert = [...doc.insert.keys()][pick(doc.insert.size)] ?? 'none'
      return pick(2)
        ? editInsert(doc, { id: insert, fields: { bypass: pick(2) === 0 } })
        : moveInsert(doc, { id: insert, before: null })
    }
    case 28:
      return shortlistSound(doc, {
        id: `l${step}`,
        cueId: cue,
        sound: { id: sound.id, name: 's' },
        part: { in: pick(100), out: null, sync: null },
      })
    case 29: {
      const candidate = [...doc.candidate.keys()][pick(doc.candidate.size)] ?? 'none'
      return pick(2)
        ? rankCandidate(doc, { id: candidate, by: pick(2) ? 1 : -1 })
        : remarkCandidate(doc, { id: candidate, remark: `r${step}` })
    }
    case 8:
      return splitClips(doc, { ids, at: (doc.clip.get(clip)?.start ?? 0) + pick(9000), newId })
    case 9: {
      const first = doc.clip.get(clip)
      const other = first && neighbourAt(doc, first, 'tail')
      return rollBoundary(doc, {
        firstId: clip,
        secondId: other?.id ?? 'none',
        to: (other?.start ?? 0) + pick(20_000) - 10_000,
      })
    }
    case 10:
      return slipClip(doc, { id: clip, by: pick(20_000) - 10_000 })
    case 11:
      return crossfadeClips(doc, { ids, length: 1 + pick(20_000) })
    case 12:
      return pasteClips(doc, { copied: copyClips(doc, ids), at: pick(4_000_000), cueId: null, newId })
    case 13:
      return duplicateClips(doc, { ids: [clip], newId })
    case 14:
      return repeatClip(doc, {
        id: clip,
        until: (doc.clip.get(clip)?.start ?? 0) + pick(4) * (doc.clip.get(clip)?.length ?? 0),
        overlap: pick(9000),
        newId,
      })
    case 15:
      return bendClips(doc, { ids, fields: { speed: 0.5 + pick(6) / 4 } })
    case 16:
      return bendClips(doc, { ids, fields: { reverse: pick(2) === 0, sides: 'swapped' } })
    case 17:
      return swapClips(doc, { swaps: [{ id: clip, sound }] })
    case 18: {
      const places = [{ frame: 100 + pick(2000), cueId: null }]
      return layEvents(doc, { sound, events: [[0, pick(500), 500 + pick(500)]], places, category, newId })
    }
    case 19:
      return pick(3)
        ? moveClips(doc, { ids: [clip], by: pick(60_000) - 30_000, meet: true })
        : moveAcross(doc, { ids, by: pick(2) ? 1 : -1 })
    case 20:
    case 21: {
      const moments = Array.from({ length: 6 }, (): RideMoment => [pick(4_000_000), pick(40) - 30])
      return drawRide(doc, { trackId: track, what: pick(2) ? 'level' : 'pan', moments, newId })
    }
    case 22: {
      const point = [...doc.ride.keys()][pick(doc.ride.size)] ?? 'none'
      if (pick(4) === 0) return deleteRecords(doc, { ids: [point] })
      return editRidePoint(doc, {
        id: point,
        at: pick(4_000_000),
        value: pick(60) - 30,
        bend: RIDE_BENDS[pick(3)] ?? 's',
      })
    }
    case 23:
      return pick(3)
        ? moveTrack(doc, { id: track, before: null })
        : pick(2)
          ? freezeColumns(doc)
          : thawColumns(doc)
    case 30: {
      const copied = copyRide(doc, track, 'level')
      return copied && pick(2)
        ? layRide(doc, { trackId: track, copied, at: pick(4_000_000), newId })
        : liftRide(doc, { trackId: track, what: 'level', by: pick(9) - 4 })
    }
    case 31: {
      const layers = ['a', 'b'].map((layer) => ({
        id: `c${step}${layer}`,
        newTrackId: `t${step}${layer}`,
        category,
        sound: { ...sound, id: layer },
      }))
      return keepLayers(doc, { layers, cueId: null, frame: pick(2000), group: `g${step}` })
    }
    case 24:
      return pick(6) ? removeEmptyTracks(doc) : deleteRecords(doc, { ids: [track] })
    case 25:
      return pick(2)
        ? shapeClips(doc, { ids, fields: { locked: pick(4) === 0 }, stepBy: -3 })
        : groupClips(doc, { ids, group: pick(3) ? `g${pick(3)}` : '' })
    case 32:
      return groupClips(doc, { ids, group: `k${step}`, name: 'By hand' })
    case 33:
    case 34: {
      const stack = [...doc.stack.keys()][pick(doc.stack.size)]
      const layers = ['a', 'b', 'c'].slice(pick(2)).map((layer) => ({
        ...{ layer, category, at: pick(9000) - 4000 },
        sound: { ...sound, id: layer, gain: 3 - pick(9) },
      }))
      return stack !== undefined && pick(2)
        ? swapStack(doc, { id: stack, layers, before: layers, variation: `${step}`, newId })
        : keepStack(doc, {
            ...{ id: `k${step}`, name: 'Train', planId: 'p', variation: '1', layers },
            ...{ at: 5000 + pick(4_000_000), cueId: null, newId },
          })
    }
    case 0:
      return spotCue(doc, { id: `q${step}`, category, in: pick(2000), out: 2000 + pick(100) })
    case 1:
    case 2: {
      return placeSound(doc, {
        id: `c${step}`,
        newTrackId: `t${step}`,
        category,
        cueId: cues.length ? cue : null,
        frame: pick(2000),
        sound,
      })
    }
    case 3:
      return moveClips(doc, { ids: [clip], by: pick(100_000) - 50_000 })
    case 4:
      return trimClip(doc, { id: clip, end: pick(2) ? 'head' : 'tail', to: pick(4_000_000) })
    case 5:
      return shapeClips(doc, {
        ids: [clip],
        fields: { fadeIn: pick(9000), fadeOut: pick(9000) },
        gainBy: pick(7) - 3,
      })
    case 6:
      return editCue(doc, { id: cue, fields: { words: `w${step}`, in: pick(3000) } })
    default:
      return deleteRecords(doc, { ids: pick(3) ? [clip] : [cue] })
  }
}

describe('changes', () => {
  it.each([1, 2, 3, 5, 8, 13])('keep every rule, invert and squash exactly (seed %i)', (seed) => {
    const pick = seeded(seed)
    const start = testReel()
    let doc = start
    let all = emptyChange('all')
    const done: Change[] = []
    let stacked = 0
    for (let step = 0; step < 250; step++) {
      const change = randomEdit(doc, pick, step)
      if (!change.ok) continue
      const next = expectOk(apply(doc, change.value))
      // Moving a clip out of a crossfade may leave one that no longer fits: the rules refuse it, as the server would.
      if (!checkChange(next, change.value).ok) continue
      expect(expectOk(apply(next, invert(change.value)))).toEqual(doc)
      all = squash(all, change.value)
      done.push(change.value)
      doc = next
      for (const record of [...change.value.added, ...change.value.updated.map(([, to]) => to)]) {
        expect(recordSchema.safeParse(record).error).toBeUndefined()
        if (record.kind === 'clip') expect(checkClip(record)).toBeNull()
      }
      const broken = [...doc.clip.values()].filter((a) =>
        [...doc.clip.values()].some((b) => a.id < b.id && a.trackId === b.trackId && !mayMeet(a, b)),
      )
      expect(broken).toEqual([])
      expect([...doc.stack.keys()].filter((id) => !clipsByGroup(doc).has(id))).toEqual([])
      stacked = Math.max(stacked, doc.stack.size)
    }
    expect(stacked).toBeGreaterThan(1)
    expect(done.length).toBeGreaterThan(60)
    expect(expectOk(apply(start, all))).toEqual(doc)
    // What the server is sent and applies is the same document; undoing all of it gives back the first, to the byte.
    const sent = JSON.parse(JSON.stringify(done)) as Change[]
    expect(sent.reduce((now, change) => expectOk(apply(now, change)), documentOf(recordsOf(start)))).toEqual(
      doc,
    )
    const back = done.reduceRight((present, change) => expectOk(apply(present, invert(change))), doc)
    expect(JSON.stringify(recordsOf(back))).toBe(JSON.stringify(recordsOf(start)))
  })

  it('refuses a change that saw another record than the present one', () => {
    const doc = testReel()
    const first = expectOk(spotCue(doc, { id: 'q', category: 'FX', in: 1, out: 2 }))
    const after = expectOk(apply(doc, first))
    const stale = expectOk(editCue(after, { id: 'q', fields: { words: 'mine' } }))
    const theirs = expectOk(apply(after, expectOk(editCue(after, { id: 'q', fields: { words: 'theirs' } }))))
    expect(apply(theirs, stale)).toMatchObject({ ok: false, code: 'CORE_RECORD_CHANGED' })
    expect(apply(doc, stale)).toMatchObject({ ok: false, code: 'CORE_RECORD_MISSING' })
    expect(apply(after, first)).toMatchObject({ ok: false, code: 'CORE_RECORD_EXISTS' })
  })

  it('never takes the reel out of itself, nor offers to undo its making', () => {
    const doc = testReel()
    const change = { ...emptyChange('gone'), removed: [...doc.reel.values()] }
    expect(checkChange(expectOk(apply(doc, change)), change)).toMatchObject({
      ok: false,
      code: 'CORE_REEL_GONE',
    })
    const line = (seq: number): LogEntry => ({ seq, author: 'Me', role: 'do', target: null, label: '' })
    expect(stacksFromLog([line(1), line(2), line(3)], 'Me')).toEqual({ undo: [2, 3], redo: [] })
  })

  it('refuses a number given out twice', () => {
    const doc = testReel()
    const added = ['a', 'b'].map(
      (id) => expectOk(spotCue(doc, { id, category: 'FX', in: 1, out: 2 })).added[0]!,
    )
    const change = { ...emptyChange('two'), added }
    expect(checkChange(expectOk(apply(doc, change)), change)).toMatchObject({
      ok: false,
      code: 'CORE_NUMBER_TAKEN',
    })
  })
})
