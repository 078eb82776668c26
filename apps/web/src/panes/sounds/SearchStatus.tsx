import type { SoundPage } from '@yodel/core'
import { skipToken } from '@reduxjs/toolkit/query'
import { memo } from 'react'
import { Link, useMatch } from 'react-router'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { searchActions } from '../../document/searchSlice.js'
import { shelvesSearched } from './describe.js'
import type { Search } from './useSearch.js'

/** How many were found, what became of words that stand on no sound, and what would find something when nothing is found. */
export const SearchStatus = memo(function SearchStatus({ search }: { search: Search }) {
  const dispatch = useAppDispatch()
  const { first, error, params } = search
  const isSoundsPage = useMatch('/sounds') !== null
  const like = useAppSelector((state) => state.search.like)
  const { data: facets } = api.useFacetsQuery(first && first.total === null && params ? params : skipToken)
  const { data: shelves } = api.useShelvesQuery()
  if (error) return <p className="text-[11.5px] text-gate">{messageOf(error)}</p>
  if (!first) return <p className="text-[11.5px] text-ink-2">Searching …</p>
  const total = first.total ?? facets?.total ?? null
  const about = first.total === null && facets?.about ? 'about ' : ''
  const where = params && shelves ? shelvesSearched(params, shelves.length) : ''
  const isNarrowed = params?.shelves !== undefined
  const nothing = search.sounds.length === 0 && first.next === null
  return (
    <div className="text-[11.5px] text-ink-2" role="status" data-searching={search.searching}>
      {!nothing && (
        <p>
          {like
            ? `The ${total ?? ''} nearest by ear`
            : total === null
              ? 'Many sounds'
              : total === 1
                ? '1 sound'
                : `${about}${total.toLocaleString('en')} sounds`}
          {where && `, ${where}`} {isNarrowed && <AllShelves />}
        </p>
      )}
      <Words of={first.respelt} />
      {first.problems.map((problem) => (
        <p key={problem} className="text-gate">
          {problem}
        </p>
      ))}
      {nothing && (
        <>
          {shelves?.length === 0 ? (
            <p>
              No shelf yet
              {!isSoundsPage && (
                <>
                  :{' '}
                  <Link to="/sounds" className="underline underline-offset-2 hover:text-ink">
                    add a folder of recordings
                  </Link>{' '}
                  under Sounds
                </>
              )}
              .
            </p>
          ) : (
            <p>
              {params?.q ? `Nothing has all of “${params.q}”` : 'Nothing here'}
              {isNarrowed && ` on ${where}`}. {isNarrowed && <AllShelves />}
            </p>
          )}
          {first.instead.length > 0 && (
            <p className="mt-1 flex flex-wrap gap-1">
              {first.instead.map(({ query, total: found }) => (
                <button
                  key={query}
                  type="button"
                  className="min-h-6 rounded-full border border-ink-3 bg-paper-2 px-2 hover:border-ink"
                  onClick={() => {
                    dispatch(searchActions.clearFilters())
                    dispatch(searchActions.search({ query }))
                  }}
                >
                  {query} <span className="font-mono">{found}</span>
                </button>
              ))}
            </p>
          )}
        </>
      )}
    </div>
  )
})

/** Has every shelf searched again, from wherever one is. */
function AllShelves() {
  const dispatch = useAppDispatch()
  return (
    <button
      type="button"
      className="min-h-6 underline underline-offset-2 hover:text-ink"
      onClick={() => dispatch(searchActions.allShelves())}
    >
      Search all
    </button>
  )
}

/** Words asked for that stand on no sound: what is spelt nearest was searched instead, or they were left out. */
function Words({ of }: { of: SoundPage['respelt'] }) {
  const spelt = of.filter(({ words }) => words.length > 0)
  const missing = of.filter(({ words }) => words.length === 0)
  return (
    <>
      {spelt.length > 0 && (
        <p>{spelt.map(({ typed, words }) => `For “${typed}”: ${words.join(', ')}`).join('. ')}.</p>
      )}
      {missing.length > 0 && <p>On no shelf: {missing.map(({ typed }) => `“${typed}”`).join(', ')}.</p>}
    </>
  )
}
