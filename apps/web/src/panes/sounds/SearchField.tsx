import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { cueCode } from '@yodel/core'
import { History, Search } from 'lucide-react'
import type { KeyboardEvent, Ref } from 'react'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { searchActions } from '../../document/searchSlice.js'

/** The one field that searches all sounds, and the searches made before. */
export function SearchField({
  onKeyDown,
  field,
}: {
  onKeyDown: (event: KeyboardEvent) => void
  field?: Ref<HTMLInputElement>
}) {
  const dispatch = useAppDispatch()
  const query = useAppSelector((state) => state.search.query)
  const cue = useAppSelector((state) =>
    state.search.queryOf ? state.document.doc.cue.get(state.search.queryOf) : undefined,
  )
  const like = useAppSelector((state) => state.search.like)
  return (
    <div className="flex h-[34px] items-center gap-2 rounded-[6px] border-[1.5px] border-ink bg-card pl-2.5 focus-within:border-focus">
      <Search size={15} aria-hidden />
      <input
        ref={field}
        data-search
        type="search"
        aria-label="Search sounds"
        placeholder={like ? `Like ${like.name}` : 'Search all sounds'}
        title={'Words, "a phrase", -without, length<2, channels:stereo, rating>=3, used:show'}
        className="min-w-0 flex-1 bg-transparent text-[14px] outline-none placeholder:text-ink-3"
        value={query}
        onChange={(event) => dispatch(searchActions.search({ query: event.target.value }))}
        onKeyDown={onKeyDown}
      />
      {cue && <span className="text-[11.5px] whitespace-nowrap text-ink-3">from {cueCode(cue)}</span>}
      <PastSearches />
    </div>
  )
}

function PastSearches() {
  const dispatch = useAppDispatch()
  const reelId = useAppSelector((state) => state.document.reelId) ?? ''
  const cueId =
    useAppSelector((state) => state.view.selected.find((id) => state.document.doc.cue.get(id))) ?? ''
  const { data: searches } = api.usePastSearchesQuery({ reelId, cueId })
  return (
    <Popover className="relative flex h-full">
      <PopoverButton
        className="px-2 text-ink-2 hover:text-ink"
        aria-label="Past searches"
        title="Past searches"
      >
        <History size={15} />
      </PopoverButton>
      <PopoverPanel
        anchor="bottom end"
        className="z-40 mt-1 max-h-[320px] w-[286px] overflow-y-auto rounded-[6px] border border-line bg-card py-1 shadow-lg"
      >
        {({ close }) => (
          <>
            {searches?.length === 0 && (
              <p className="px-3 py-1 text-ink-2">What you search and then try is kept here.</p>
            )}
            {searches?.map((search) => (
              <button
                key={search.query}
                type="button"
                className="flex w-full items-baseline gap-2 px-3 py-1 text-left hover:bg-paper-2"
                onClick={() => {
                  dispatch(searchActions.search({ query: search.query }))
                  close()
                }}
              >
                <span className="min-w-0 flex-1 truncate">{search.query}</span>
                {search.ofCue && <span className="text-[11px] text-ink-3">for this cue</span>}
              </button>
            ))}
          </>
        )}
      </PopoverPanel>
    </Popover>
  )
}
