import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { SOUND_ORDERS, type SoundOrder } from '@yodel/core'
import { ArrowDownUp, ListFilter, X } from 'lucide-react'
import { memo } from 'react'
import { shallowEqual } from 'react-redux'
import type { SoundParams } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Choice } from '../../ui/Choice.js'
import { QUALITY_WORDS } from './describe.js'
import { Facets } from './Facets.js'
import { searchActions } from '../../document/searchSlice.js'

const ORDER_NAMES: Readonly<Record<SoundOrder, string>> = {
  match: 'Best match',
  name: 'Name',
  length: 'Length',
  loudness: 'Loudness',
  weight: 'Weight',
  brightness: 'Brightness',
  bite: 'Bite',
  noisiness: 'Noise',
  pitch: 'Pitch',
  events: 'Events',
  added: 'When added',
}
const SMALL =
  'inline-flex min-h-6 items-center gap-1 rounded-[3px] border border-line bg-card px-1.5 text-[12px] hover:border-ink-3 disabled:opacity-45'

/** Order, filters and steering, and as chips what narrows at present. */
export const FilterBar = memo(function FilterBar({
  params,
  withFacets,
}: {
  params: SoundParams | null
  withFacets: boolean
}) {
  const dispatch = useAppDispatch()
  const { sort, down, filters, beyond, like, kit } = useAppSelector(
    ({ search }) => ({ ...search, query: '', queryOf: null }),
    shallowEqual,
  )
  const narrowed = filters.length > 0 || beyond !== null || like !== null || kit !== null
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex flex-wrap items-center gap-1.5">
        <Choice
          label="Order"
          value={sort}
          options={SOUND_ORDERS.map((order) => [order, ORDER_NAMES[order]] as const)}
          onChange={(order) =>
            dispatch(
              searchActions.order({
                sort: order,
                down: order !== 'name' && order !== 'length' && order !== 'match',
              }),
            )
          }
          className="max-w-[104px]"
        />
        <button
          type="button"
          className={SMALL}
          disabled={sort === 'match'}
          aria-label={down ? 'Most first' : 'Least first'}
          title={down ? 'Most first' : 'Least first'}
          onClick={() => dispatch(searchActions.order({ sort, down: !down }))}
        >
          <ArrowDownUp size={13} />
        </button>
        {withFacets && (
          <Popover className="relative">
            <PopoverButton className={SMALL}>
              <ListFilter size={13} /> Narrow
            </PopoverButton>
            <PopoverPanel
              anchor="bottom start"
              className="z-40 mt-1 max-h-[440px] w-[286px] overflow-y-auto rounded-[6px] border border-line bg-card p-3 shadow-lg"
            >
              <Facets params={params} withShelves />
            </PopoverPanel>
          </Popover>
        )}
        <Steer />
      </div>
      {narrowed && (
        <div className="flex flex-wrap gap-1" aria-label="Narrowed by">
          {like && <Chip text={`like ${like.name}`} onRemove={() => dispatch(searchActions.like(null))} />}
          {beyond && (
            <Chip
              text={beyond.words}
              onRemove={() => dispatch(searchActions.order({ sort: 'match', down: false }))}
            />
          )}
          {kit && <Chip text={`kit ${kit.name}`} onRemove={() => dispatch(searchActions.kit(null))} />}
          {filters.map((filter) => (
            <Chip key={filter} text={filter} onRemove={() => dispatch(searchActions.toggleFilter(filter))} />
          ))}
        </div>
      )}
    </div>
  )
})

function Chip({ text, onRemove }: { text: string; onRemove: () => void }) {
  return (
    <button
      type="button"
      onClick={onRemove}
      aria-label={`Take away ${text}`}
      className="inline-flex min-h-6 max-w-full items-center gap-1 rounded-full border border-ink-3 bg-paper-2 px-2 text-[11.5px] hover:border-ink"
    >
      <span className="truncate">{text}</span>
      <X size={11} aria-hidden />
    </button>
  )
}

/** Goes on from the chosen sound by ear: heavier, shorter, more like this. */
function Steer() {
  const dispatch = useAppDispatch()
  const sound = useAppSelector((state) => state.trying.sound)
  return (
    <Popover className="relative">
      <PopoverButton
        className={SMALL}
        disabled={!sound}
        title={sound ? `Go on from ${sound.name} by ear` : 'Choose a sound first'}
      >
        By ear
      </PopoverButton>
      <PopoverPanel
        anchor="bottom end"
        className="z-40 mt-1 w-[250px] rounded-[6px] border border-line bg-card p-2 shadow-lg"
      >
        {({ close }) =>
          !sound ? (
            <p>Choose a sound first.</p>
          ) : (
            <>
              <button
                type="button"
                className={`${SMALL} mb-2 w-full justify-center font-semibold`}
                onClick={() => {
                  dispatch(searchActions.like({ id: sound.id, name: sound.name }))
                  close()
                }}
              >
                More like this
              </button>
              <div className="grid grid-cols-2 gap-1">
                {QUALITY_WORDS.flatMap(({ quality, more, less }) =>
                  [[less, true] as const, [more, false] as const].map(([words, down]) => (
                    <button
                      key={words}
                      type="button"
                      className={SMALL}
                      disabled={!sound.measured || (quality === 'pitch' && sound.pitch === 0)}
                      onClick={() => {
                        dispatch(
                          searchActions.steer({
                            sort: quality,
                            down,
                            value: sound[quality],
                            words: `${words} than ${sound.name}`,
                          }),
                        )
                        close()
                      }}
                    >
                      {words}
                    </button>
                  )),
                )}
              </div>
            </>
          )
        }
      </PopoverPanel>
    </Popover>
  )
}
