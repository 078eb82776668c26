import { editCue, emptyChange, ok, samples, spotCue, syncPlace, type FoundSound } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { after, placed } from '../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { choicesAbove, draftTriedIn, shownEntry } from '../document/drafted.js'
import { serverIs } from '../test/serverIs.js'
import { setStage, settle, type Stage } from '../test/stage.js'

const found = (name: string, met: string, fields: Partial<FoundSound> = {}): FoundSound =>
  ({
    ...{ id: name, name, keywords: '', description: '', category: '', length: 24_000, sync: 2400, events: 1 },
    why: met === '' ? [] : [{ typed: met, found: met, field: 'name', how: 'typed' }],
    ...fields,
  }) as FoundSound
/** What the server finds for the words of a cue. */
const SHELVES: Readonly<Record<string, readonly FoundSound[]>> = {
  'Bell': [found('Bell 1', 'Bell'), found('Bell 2', 'Bell')],
  'Bell again': [found('Bell 1', 'Bell'), found('Bell 2', 'Bell')],
  'He walks off': [1, 2].map((n) => found(`Walk ${n}`, 'walks', { category: 'Footsteps' })),
  'Harmonium': [],
}
const reel = (() => {
  let doc = testReel()
  for (const [index, words] of Object.keys(SHELVES).entries()) {
    const category = words.startsWith('He') ? 'FOL' : 'FX'
    doc = after(
      doc,
      spotCue(doc, { id: `q${index}`, category, in: 100 + index * 100, out: 160 + index * 100, words }),
    )
  }
  doc = after(doc, spotCue(doc, { id: 'covered', category: 'FX', in: 900, out: 910, words: 'Bell' }))
  return placed(doc, 'there', 900, { cueId: 'covered' })
})()

let stage: Stage
let asked: string[]
let isAway: boolean
let refused: string | null
/** A sound that somebody else puts on the first cue. */
const theirs = { id: 'theirs', cueId: 'q0', start: samples(9_000_000) }
serverIs((url) => {
  const words = url.searchParams.get('q') ?? ''
  asked.push(words)
  if (words === refused) return Response.json({ message: 'No.' }, { status: 400 })
  if (isAway) return Response.json({ message: 'The server is away.' }, { status: 503 })
  const sounds = url.searchParams.has('like') ? [] : (SHELVES[words] ?? [])
  return Response.json({ sounds, total: sounds.length, next: null, respelt: [], problems: [], instead: [] })
})
beforeEach(() => {
  asked = []
  isAway = false
  refused = null
  stage = setStage(reel)
  stage.session.marks.current = { onsets: [305, 317, 329, 341], cuts: [] }
})

const drafting = () => stage.store.getState().drafting
const begin = async (): Promise<void> => {
  stage.commands.draft.toggle()
  for (let tries = 0; tries < 200 && drafting().waiting.length > 0 && !drafting().trouble; tries++)
    await settle()
}
const shown = () => drafting().shown
const tried = () => draftTriedIn(stage.doc(), shownEntry(drafting()), drafting().onsets)?.clips
const names = () => tried()?.map(({ name }) => name)
const laid = (cueId: string) =>
  [...stage.doc().clip.values()].filter((clip) => clip.cueId === cueId).map(({ name }) => name)

describe('a draft', () => {
  it('has first choices for the cues without sounds, none of them in the reel', async () => {
    await begin()
    expect(drafting().entries.map(({ cueId, ranked }) => [cueId, ranked[0]?.sound.name])).toEqual([
      ...[
        ['q0', 'Bell 1'],
        ['q1', 'Bell 2'],
        ['q2', 'Walk 1'],
        ['q3', undefined],
      ],
    ])
    expect(stage.doc().clip.size).toBe(reel.clip.size)
    // The first is looked at by itself: drawn where it would lie, and gone round.
    expect([shown(), names(), stage.selected()]).toEqual(['q0', ['Bell 1'], ['q0']])
  })
  it('is walked through with three keys: the next candidate, keep, leave', async () => {
    await begin()
    stage.commands.doing.step(1)
    await settle()
    expect(names()).toEqual(['Bell 2'])
    stage.commands.doing.enter()
    expect([laid('q0'), shown()]).toEqual([['Bell 2'], 'q1'])
    stage.commands.doing.nextCue()
    expect([laid('q1'), shown(), names()]).toEqual([[], 'q2', ['Walk 1', 'Walk 2', 'Walk 1', 'Walk 2']])
    stage.commands.doing.enter()
    expect([laid('q2').length, shown(), stage.told()]).toEqual([
      4,
      null,
      'That was the last choice of the draft.',
    ])
    stage.commands.undo()
    expect([laid('q2'), laid('q0')]).toEqual([[], ['Bell 2']])
  })
  it('says when there are no more candidates, and leaves no trace of what was looked at', async () => {
    await begin()
    stage.commands.doing.step(-1)
    await settle()
    expect(stage.told()).toBe('That is the first candidate.')
    stage.commands.doing.leave()
    expect([shown(), names(), drafting().id !== null, stage.doc().clip.size]).toEqual([
      null,
      undefined,
      true,
      reel.clip.size,
    ])
    stage.commands.draft.toggle()
    expect([drafting().id, drafting().entries]).toEqual([null, []])
  })
  it('keeps everything above a line as one step', async () => {
    await begin()
    const above = choicesAbove(stage.doc(), drafting())
    expect(above.map(({ cueId }) => cueId)).toEqual(['q0', 'q1', 'q2'])
    stage.commands.draft.keepAbove()
    expect(['q0', 'q1', 'q2'].map((id) => laid(id).length)).toEqual([1, 1, 4])
    stage.commands.draft.keepAbove()
    expect(stage.told()).toBe('No choice of the draft is that sure.')
    stage.commands.undo()
    expect(stage.doc()).toEqual(reel)
    // What was taken back can be kept again.
    expect(choicesAbove(stage.doc(), drafting())).toEqual(above)
  })
  it('follows its cue, and lays nothing over what somebody has put there meanwhile', async () => {
    await begin()
    stage.does((doc) => editCue(doc, { id: 'q0', fields: { sync: 120 } }))
    expect(tried()?.map(syncPlace)).toEqual([120 * 2000])
    stage.does(() =>
      ok({ ...emptyChange('Theirs'), added: [{ ...stage.doc().clip.get('there')!, ...theirs }] }),
    )
    stage.commands.doing.enter()
    expect([stage.told(), laid('q0'), shown()]).toEqual([
      'This cue has a sound by now: the choice was not laid over it.',
      ['Lever'],
      'q1',
    ])
    expect(choicesAbove(stage.doc(), drafting()).map(({ cueId }) => cueId)).toEqual(['q1', 'q2'])
  })
  it('passes over what the server will not have', async () => {
    refused = 'Bell again'
    await begin()
    expect(drafting().entries.map(({ ranked }) => ranked.length)).toEqual([2, 0, 2, 0])
    expect(drafting().trouble).toBeNull()
  })
  it('that breaks off says why, and goes on where it was', async () => {
    isAway = true
    await begin()
    expect([drafting().trouble, drafting().waiting.length]).toEqual(['The server is away.', 4])
    isAway = false
    await expect.poll(() => drafting().waiting.length, { timeout: 5000 }).toBe(0)
    expect([drafting().trouble, drafting().waiting, drafting().entries.length]).toEqual([null, [], 4])
  })
  it('of a reel whose cues all have sounds is refused', () => {
    stage = setStage(placed(testReel(), 'a', 100))
    stage.commands.draft.toggle()
    expect([stage.told(), drafting().id]).toEqual([
      'Every cue has a sound already: there is nothing to draft.',
      null,
    ])
  })
})
