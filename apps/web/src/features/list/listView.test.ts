import { CUE_FIELDS } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { installStorage } from '../../test/stage.js'
import {
  exportQuery,
  storeView,
  lastView,
  namedViews,
  PLAIN_VIEW,
  readView,
  saveNamedView,
} from './listView.js'

let kept: Map<string, string>
beforeEach(() => {
  kept = installStorage()
})

describe('a view of the list', () => {
  it('is plain at first, and what it was left as afterwards, but for what was searched', () => {
    expect(lastView()).toEqual(PLAIN_VIEW)
    storeView({ ...PLAIN_VIEW, search: 'door', group: 'scene', categories: ['FX'] })
    expect(lastView()).toEqual({ ...PLAIN_VIEW, group: 'scene', categories: ['FX'] })
  })

  it('asks for a list as it is shown: its columns in their order, and what it stands together by', () => {
    const order = ['words', 'in', 'notes']
    expect(exportQuery({ ...PLAIN_VIEW, order, hidden: ['in'] })).toBe('columns=words%2Cnotes')
    expect(exportQuery({ ...PLAIN_VIEW, order, hidden: order.slice(1), group: 'source' })).toBe(
      'columns=words&group=source',
    )
  })

  it('keeps the order of its columns; new ones come last, unknown ones go', () => {
    const view = readView(JSON.stringify({ order: ['words', 'gone', 'in'] }))
    expect(view.order.slice(0, 2)).toEqual(['words', 'in'])
    expect(view.order.toSorted()).toEqual(CUE_FIELDS.map((field) => field.key).toSorted())
  })

  it.each(['{', 'nonsense', '{"order": 7}'])('is plain where what was kept can’t be read: %s', (text) => {
    expect(readView(text)).toEqual(PLAIN_VIEW)
  })

  it('can be saved under names, in their order, replaced and removed', () => {
    saveNamedView('Foley', { ...PLAIN_VIEW, categories: ['FOL'] })
    saveNamedView('Asked', { ...PLAIN_VIEW, noted: true })
    expect(namedViews().map(({ name }) => name)).toEqual(['Asked', 'Foley'])
    saveNamedView('Foley', { ...PLAIN_VIEW, categories: ['FOL', 'FX'] })
    expect(namedViews()[1]?.view.categories).toEqual(['FOL', 'FX'])
    saveNamedView('Asked', null)
    expect(namedViews()).toHaveLength(1)
    for (const key of kept.keys()) kept.set(key, 'broken')
    expect(namedViews()).toEqual([])
  })
})
