import { skipToken } from '@reduxjs/toolkit/query'
import { memo, type ReactNode } from 'react'
import { api, type SoundParams } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { channelsOf, LENGTH_NAMES } from './describe.js'
import { searchActions } from '../../document/searchSlice.js'
import { useSettled } from './useSearch.js'

const MOST = 12
const COUNT_MS = 300
const USES = [
  ['used:show', 'in this show'],
  ['used:recent', 'lately'],
  ['used:never', 'never yet'],
] as const
const ADDED = [
  ['added:today', 'today'],
  ['added:week', 'this week'],
  ['added:month', 'this month'],
] as const

/** What results can be narrowed by, with how many there are of each; a click narrows, another takes it away. */
export const Facets = memo(function Facets({
  params,
  withShelves,
}: {
  params: SoundParams | null
  withShelves: boolean
}) {
  // Counts come after the results: those are what somebody waits for.
  const settled = useSettled(params, COUNT_MS, false)
  const { data } = api.useFacetsQuery(settled ?? skipToken)
  const { data: shelves } = api.useShelvesQuery()
  const off = useAppSelector((state) => state.search.off)
  const dispatch = useAppDispatch()
  const about = data?.about ? 'about ' : ''
  const counted = (field: 'category' | 'licence'): [string, string, number][] =>
    Object.entries(data?.fields[field] ?? {})
      .sort((a, b) => b[1] - a[1])
      .slice(0, MOST)
      .map(([name, n]) => [`${field}:"${name}"`, name, n])
  const numbers = (
    field: 'channels' | 'rate',
    show: (value: number) => string,
    filter: (value: number) => string,
  ): [string, string, number][] =>
    Object.entries(data?.fields[field] ?? {})
      .map(([value, n]): [number, number] => [Number(value), n])
      .sort((a, b) => a[0] - b[0])
      .map(([value, n]) => [filter(value), show(value), n])
  const stars = [5, 4, 3, 2, 1].map((least): [string, string, number] => [
    `rating>=${least}`,
    `${'★'.repeat(least)}${least < 5 ? ' and more' : ''}`,
    Object.entries(data?.fields.rating ?? {}).reduce(
      (sum, [rating, n]) => sum + (Number(rating) >= least ? n : 0),
      0,
    ),
  ])
  return (
    <div className="text-[12px]" data-facets>
      {withShelves && (
        <Group name="Shelves">
          {shelves?.map((shelf) => (
            <label key={shelf.id} className="flex min-h-6 items-center gap-2">
              <input
                type="checkbox"
                checked={!off.includes(shelf.id)}
                onChange={() => dispatch(searchActions.toggleShelf(shelf.id))}
              />
              <span className="min-w-0 flex-1 truncate">{shelf.name}</span>
              {shelf.away && <span className="text-gate">away</span>}
              <span className="font-mono text-ink-2">
                {off.includes(shelf.id) ? 'off' : count(data?.fields.shelf[shelf.id] ?? 0)}
              </span>
            </label>
          ))}
        </Group>
      )}
      <Values
        name="Length"
        about={about}
        values={LENGTH_NAMES.map(({ name, filter }, index) => [
          filter,
          name,
          data?.fields.length[index] ?? 0,
        ])}
      />
      <Values
        name="Channels"
        about={about}
        values={numbers('channels', channelsOf, (value) => `channels:${value}`)}
      />
      <Values
        name="Sample rate"
        about={about}
        values={numbers(
          'rate',
          (value) => `${value / 1000} kHz`,
          (value) => `rate:${value / 1000}`,
        )}
      />
      <Values name="Category" about={about} values={counted('category')} />
      <Values name="Rating" about={about} values={stars.filter(([, , n]) => n > 0)} />
      <Values name="Licence" about={about} values={counted('licence')} />
      <Values name="Used" about="" values={USES.map(([filter, name]) => [filter, name, null])} />
      <Values name="Added" about="" values={ADDED.map(([filter, name]) => [filter, name, null])} />
    </div>
  )
})

const count = (n: number): string => n.toLocaleString('en')

function Values({
  name,
  about,
  values,
}: {
  name: string
  about: string
  values: readonly (readonly [filter: string, name: string, n: number | null])[]
}) {
  const dispatch = useAppDispatch()
  const filters = useAppSelector((state) => state.search.filters)
  if (values.length === 0) return null
  return (
    <Group name={name}>
      {values.map(([filter, words, n]) => {
        const on = filters.includes(filter)
        return (
          <button
            key={filter}
            type="button"
            aria-pressed={on}
            disabled={n === 0 && !on}
            onClick={() => dispatch(searchActions.toggleFilter(filter))}
            className={`flex min-h-6 w-full items-center gap-2 rounded-[3px] px-1 text-left disabled:opacity-45 ${on ? 'bg-ink text-paper' : 'hover:bg-paper-2'}`}
          >
            <span className="min-w-0 flex-1 truncate">{words}</span>
            {n !== null && (
              <span
                className={`font-mono ${on ? '' : 'text-ink-2'}`}
                title={about ? 'Counted on a sample' : undefined}
              >
                {about ? '~' : ''}
                {count(n)}
              </span>
            )}
          </button>
        )
      })}
    </Group>
  )
}

function Group({ name, children }: { name: string; children: ReactNode }) {
  return (
    <section className="mb-2.5">
      <h3 className="mb-0.5 text-[11px] font-semibold tracking-wide text-ink-3 uppercase">{name}</h3>
      {children}
    </section>
  )
}
