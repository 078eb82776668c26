import { editCue, scratchIn, scratchOf, spotCue, type Saying } from '@yodel/core'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { after } from '../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { usualVoice } from '../api/voicesApi.js'
import { turn } from '../document/edit.js'
import { viewActions } from '../document/viewSlice.js'
import { voiceActions } from '../document/voiceSlice.js'
import { serverIs } from '../test/serverIs.js'
import { setStage, settle, type Stage } from '../test/stage.js'

const reel = ['a', 'b', 'c'].reduce((doc, id, index) => {
  const words = id === 'c' ? '(a look)' : `MAN: Line ${id}.`
  return after(doc, spotCue(doc, { id, category: 'DX', in: 100 * index, out: 100 * index + 48, words }))
}, testReel())

/** The server as far as it is asked here: what it is asked to say is kept, and what it can't say is refused. */
const said: (Saying & { cue: string })[] = []
let stage: Stage
serverIs(async (_, input) => {
  const asked = (await (input as Request).json()) as Saying & { cue: string }
  said.push(asked)
  if (asked.line.voice === 'gone')
    return Response.json({ message: 'There is no voice “gone”.' }, { status: 422 })
  const name = `Scratch ${asked.cue}`
  return Response.json({
    ...{ sound: { id: `s${said.length}`, name, length: 96_000, sync: 700 }, fits: true, seconds: 2 },
  })
})
beforeEach(() => {
  said.length = 0
  stage = setStage(reel)
  stop = stage.commands.voices.follow(stage.store)
  stage.store.dispatch(voiceActions.setManner({ voice: 'espeak-ng en-gb', pace: 'cue', pitch: 0 }))
})
let stop: () => void
afterEach(() => stop())

const laid = (id: string) => scratchOf(stage.doc(), id)
const saidAt = (id: string): string | undefined => scratchIn(laid(id) ?? { scratch: '' })?.said
const setWords = (id: string, words: string): void =>
  stage.does((doc) => editCue(doc, { id, fields: { words } }))
const until = async (holds: () => boolean): Promise<void> => {
  for (let tries = 0; tries < 50 && !holds(); tries++) await settle()
  expect(holds()).toBe(true)
}

describe('scratch voices', () => {
  it('are said for all dialogue that has words, as one step, and not said again', async () => {
    await stage.commands.voices.sayAll()
    expect(said.map(({ cue, line, seconds }) => [cue, line.text, seconds])).toEqual([
      ['DX 001', 'Line a.', 2],
      ['DX 002', 'Line b.', 2],
    ])
    expect([saidAt('a'), saidAt('b'), laid('c')]).toEqual(['Line a.', 'Line b.', null])
    // The first word lies on the sync, whatever the ears took for the onset.
    expect(laid('b')).toMatchObject({ start: 100 * 2000, sync: 0 })
    await stage.commands.voices.sayAll()
    expect([said.length, stage.told()]).toEqual([2, 'Every dialogue cue with words has its line already.'])
    stage.store.dispatch(turn('undo'))
    expect([laid('a'), laid('b')]).toEqual([null, null])
  })
  it('follow the words of their cues, in their place; undo goes back through both', async () => {
    stage.store.dispatch(viewActions.select(['a']))
    await stage.commands.voices.say()
    const first = laid('a')
    setWords('a', 'MAN: Another line.')
    await until(() => saidAt('a') === 'Another line.')
    expect(laid('a')).toMatchObject({ id: first?.id, start: first?.start, soundId: 's2' })
    // Words of its own don't follow.
    await stage.commands.voices.setText(stage.doc().cue.get('a')!, 'My own.')
    setWords('a', 'MAN: A third one.')
    await settle()
    expect([saidAt('a'), said.length]).toEqual(['My own.', 3])
    for (let step = 0; step < 3; step++) stage.store.dispatch(turn('undo'))
    expect([saidAt('a'), stage.doc().cue.get('a')?.words]).toEqual(['Line a.', 'MAN: Another line.'])
    stage.store.dispatch(turn('undo'))
    await settle()
    expect([saidAt('a'), stage.doc().cue.get('a')?.words, said.length]).toEqual([
      'Line a.',
      'MAN: Line a.',
      3,
    ])
  })
  it('keep what was typed for a cue until they are laid, and how the last one was said', async () => {
    const cue = stage.doc().cue.get('c')!
    stage.store.dispatch(viewActions.select(['c']))
    await stage.commands.voices.say()
    expect(stage.told()).toContain('DX 003 has no words that could be said')
    await stage.commands.voices.setText(cue, 'Now look.')
    await stage.commands.voices.setManner(cue, { voice: 'flite rms', pace: 200 })
    expect(said).toEqual([])
    await stage.commands.voices.say()
    expect(said).toMatchObject([
      { line: { text: 'Now look.', voice: 'flite rms', pace: 200 }, seconds: null },
    ])
    expect(stage.store.getState().voices.texts).toEqual({})
    expect(stage.selected()).toEqual([laid('c')?.id])
  })
  it('say what the server refuses, and leave the reel as it was', async () => {
    const before = stage.doc()
    stage.store.dispatch(viewActions.select(['a']))
    await stage.commands.voices.setManner(stage.doc().cue.get('a')!, { voice: 'gone' })
    await stage.commands.voices.say()
    expect([stage.told(), stage.doc()]).toEqual(['DX 001: There is no voice “gone”.', before])
    expect(stage.store.getState().voices.saying).toBeNull()
  })
})

describe('the voice that speaks where none was chosen', () => {
  const voice = (name: string, language: string) => ({
    ...({ name, language, called: name, sex: 'man', engine: 'e' } as const),
  })
  const voices = [voice('de', 'de'), voice('gb', 'en-GB'), voice('us', 'en-US')]
  it.each([
    [['en-US', 'de'], 'us'],
    [['de-AT', 'en'], 'de'],
    [['fr'], 'gb'],
  ])('for %j is %s', (languages, name) => {
    expect(usualVoice(voices, languages)?.name).toBe(name)
  })
  it('is any where there is none of these, and none where there are no voices', () => {
    expect(usualVoice([voice('xx', 'xx')], ['fr'])?.name).toBe('xx')
    expect(usualVoice([], ['fr'])).toBeNull()
  })
})
