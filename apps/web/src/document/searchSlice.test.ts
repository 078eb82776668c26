import { beforeEach, describe, expect, it } from 'vitest'
import { installStorage } from '../test/stage.js'
import { searchActions, searchParams, searchReducer, searchText, type SearchState } from './searchSlice.js'

let kept: Map<string, string>
let state: SearchState
beforeEach(() => {
  kept = installStorage()
  state = searchReducer(undefined, searchActions.reset())
})
type Search = Parameters<typeof searchReducer>[1]
const does = (...actions: Search[]): SearchState => (state = actions.reduce(searchReducer, state))
const SHELVES = ['boots', 'boxes']

describe('what is searched for', () => {
  it('is typed, or the words of a cue', () => {
    does(searchActions.search({ query: 'door', cueId: 'q' }))
    expect(searchParams(state, SHELVES, undefined)).toEqual({ q: 'door', cue: '1' })
    does(searchActions.search({ query: 'door wood' }))
    expect(searchParams(state, SHELVES, 'show')).toEqual({ q: 'door wood', show: 'show' })
  })

  it('is narrowed by clicks, one value a field, and by the same click widened again', () => {
    does(searchActions.search({ query: 'rain' }), searchActions.toggleFilter('channels:stereo'))
    does(searchActions.toggleFilter('length<3'), searchActions.toggleFilter('channels:mono'))
    expect(searchText(state)).toBe('rain length<3 channels:mono')
    does(searchActions.toggleFilter('length<3'))
    expect(state.filters).toEqual(['channels:mono'])
    does(searchActions.kit({ id: 'k', name: 'Kit' }), searchActions.clearFilters())
    expect(state).toMatchObject({ filters: [], kit: null, query: 'rain' })
  })

  it('is ordered, and gone on in by ear', () => {
    does(searchActions.order({ sort: 'length', down: true }))
    expect(searchParams(state, SHELVES, undefined)).toMatchObject({ sort: 'length', down: '1' })
    does(searchActions.steer({ sort: 'weight', down: false, value: 40, words: 'heavier than Bell' }))
    expect(searchParams(state, SHELVES, undefined)).toMatchObject({ sort: 'weight', down: '0', beyond: 40 })
    // New words end the way that was gone by ear.
    does(searchActions.search({ query: 'bell' }))
    expect(searchParams(state, SHELVES, undefined)).toEqual({ q: 'bell' })
    does(searchActions.like({ id: 's', name: 'Bell' }))
    expect(searchParams(state, SHELVES, undefined)).toEqual({ q: '', like: 's' })
    does(searchActions.like(null))
    expect(state.like).toBeNull()
  })

  it('leaves out shelves that are off, and remembers them in this browser', () => {
    does(searchActions.toggleShelf('boots'))
    expect(searchParams(state, SHELVES, undefined)).toMatchObject({ shelves: 'boxes' })
    expect(searchReducer(undefined, searchActions.reset()).off).toEqual(['boots'])
    does(searchActions.toggleShelf('boots'))
    expect(searchParams(state, SHELVES, undefined)).not.toHaveProperty('shelves')
    for (const shelf of SHELVES) does(searchActions.toggleShelf(shelf))
    does(searchActions.allShelves())
    expect([state.off, kept.size]).toEqual([[], 0])
  })

  it('remembers the kit that a key fills', () => {
    does(searchActions.currentKit('k'))
    expect(searchReducer(undefined, searchActions.reset()).currentKit).toBe('k')
    does(searchActions.currentKit(null))
    expect([state.currentKit, kept.size]).toEqual([null, 0])
  })
})
