import { spotCue } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { installStorage, openStore } from '../test/stage.js'
import { compareActions } from './compareSlice.js'
import { edit } from './edit.js'
import type { AppStore } from './store.js'
import { viewActions } from './viewSlice.js'

let store: AppStore
beforeEach(() => {
  installStorage()
  store = openStore()
})
const view = () => store.getState().view

describe('how a reel is looked at', () => {
  it('selects, adds to what is selected, and takes from it', () => {
    store.dispatch(viewActions.select(['a']))
    store.dispatch(viewActions.toggleSelected('b'))
    store.dispatch(viewActions.toggleSelected('a'))
    expect(view().selected).toEqual(['b'])
    store.dispatch(viewActions.spotted('c'))
    expect([view().selected, view().lastSpotted]).toEqual([['c'], 'c'])
  })

  it('stays within its nearest and farthest zoom', () => {
    for (const [asked, got] of [
      [4, 4],
      [1000, 48],
      [0, 0.02],
    ] as const) {
      store.dispatch(viewActions.zoomTo(asked))
      expect(view().zoom).toBe(got)
    }
  })

  it('has a large picture while a pass lasts, and the one before after it, unless it was drawn otherwise', () => {
    const pass = (category: 'FOL' | 'FX' | null) =>
      store.dispatch(viewActions.setPass({ pass: category, page: 1280 }))
    const widths: number[] = []
    for (const act of [
      () => pass('FOL'),
      () => pass('FX'),
      () => pass(null),
      () => pass('FX'),
      () => store.dispatch(viewActions.setPictureWidth(500)),
      () => pass(null),
    ]) {
      act()
      widths.push(view().pictureWidth)
    }
    // Wider by one than what leaves room for the pane.
    expect(widths).toEqual([655, 655, 296, 655, 500, 500])
    store.dispatch(viewActions.setPictureWidth(900))
    pass('FX')
    pass(null)
    expect(view().pictureWidth).toBe(900)
  })

  it('folds folders, shows and hides strip and overview', () => {
    const before = view()
    for (const action of [
      viewActions.toggleFolder('Rain'),
      viewActions.toggleStrip(),
      viewActions.toggleOverview(),
    ]) {
      store.dispatch(action)
    }
    expect(view()).toMatchObject({
      folded: ['Rain'],
      showStrip: !before.showStrip,
      showOverview: !before.showOverview,
    })
    store.dispatch(viewActions.toggleFolder('Rain'))
    expect(view().folded).toEqual([])
  })

  it('tells the last three things, each once, until they are dismissed', () => {
    for (const text of ['one', 'two', 'two', 'three', 'four']) {
      store.dispatch(viewActions.notify({ tone: 'plain', text }))
    }
    expect(view().notices.map(({ text }) => text)).toEqual(['two', 'three', 'four'])
    store.dispatch(viewActions.dismiss(view().notices[1]?.id ?? 0))
    expect(view().notices.map(({ text }) => text)).toEqual(['two', 'four'])
  })

  it('begins anew with another reel, but for how one likes to look', () => {
    store.dispatch(viewActions.select(['a']))
    store.dispatch(viewActions.zoomTo(9))
    store.dispatch(viewActions.setGuide(0.5))
    store.dispatch(viewActions.setPass({ pass: 'FOL', page: 1280 }))
    store.dispatch(viewActions.setHelp(true))
    store.dispatch(viewActions.reset())
    expect(view()).toMatchObject({ selected: [], pass: null, help: false, zoom: 9, guide: 0.5 })
  })

  it('is never part of what is saved', () => {
    for (const action of [
      viewActions.setRide('pan'),
      viewActions.setTyping('a'),
      viewActions.setPalette(true),
    ]) {
      store.dispatch(action)
    }
    store.dispatch(compareActions.lay({ title: 'Then', key: 'at:1', cues: [] }))
    expect(store.getState().compare.other?.title).toBe('Then')
    store.dispatch(compareActions.putAway())
    expect(store.getState().compare.other).toBeNull()
    expect(store.getState().document.pending).toEqual([])
  })
})

describe('an edit', () => {
  it('is cleaned of what can’t be stored before it is shown or sent', () => {
    const words = 'do\u0000or \ud83d'
    expect(
      store.dispatch(edit((doc) => spotCue(doc, { id: 'a', category: 'FX', in: 1, out: 2, words }))),
    ).toBe(true)
    expect(store.getState().document.doc.cue.get('a')?.words).toBe('door ')
    expect(JSON.stringify(store.getState().document.pending)).not.toMatch(/u0000|ud83d/i)
  })

  it('that changes nothing is done, and nothing is sent', () => {
    expect(
      store.dispatch(
        edit(() => ({ ok: true, value: { label: 'Nothing', added: [], updated: [], removed: [] } })),
      ),
    ).toBe(true)
    expect(store.getState().document.pending).toEqual([])
  })

  it('that is refused says why, and leaves all as it was', () => {
    const before = store.getState().document
    expect(store.dispatch(edit((doc) => spotCue(doc, { id: 'a', category: 'FX', in: 5, out: 5 })))).toBe(
      false,
    )
    expect(store.getState().document).toBe(before)
    expect(view().notices.at(-1)).toMatchObject({
      tone: 'problem',
      text: expect.stringContaining('must lie after') as string,
    })
  })
})
