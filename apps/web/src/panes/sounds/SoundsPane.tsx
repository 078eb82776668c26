import { useDeferredValue, useEffect, useEffectEvent, useMemo, useRef, type RefObject } from 'react'
import { PANE } from '../../document/pictureWidth.js'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector, useAppStore } from '../../document/store.js'
import type { ResultHands } from '../../actions/resultActions.js'
import { useSession } from '../../session/session.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { BulkBar } from './BulkBar.js'
import { FilterBar } from './FilterBar.js'
import { SoundHandsContext, type SoundHands } from './hands.js'
import { ListeningStrip } from './ListeningStrip.js'
import { LookChoice } from './LookChoice.js'
import { ResultList } from './ResultList.js'
import { SearchField } from './SearchField.js'
import { searchActions, searchText } from '../../document/searchSlice.js'
import { tryActions } from '../../document/trySlice.js'
import { SearchStatus } from './SearchStatus.js'
import { useResultKeys } from './useResultKeys.js'
import { useSearch } from './useSearch.js'

/** Sounds beside the Sheet: search, results and the listening strip. A selected cue's words are searched at once. */
export function SoundsPane() {
  const commands = useCommands()
  const { listening } = useSession()
  const hands = useMemo<SoundHands>(
    () => ({
      listening,
      reel: {
        prepare: commands.tries.prepare,
        tryHere: commands.tries.here,
        keep: commands.tries.keep,
        hold: commands.tries.hold,
        putBack: commands.tries.putBack,
      },
    }),
    [commands, listening],
  )
  return (
    <SoundHandsContext value={hands}>
      <Pane />
    </SoundHandsContext>
  )
}

function Pane() {
  const sound = useAppSelector((state) => state.trying.sound)
  const commands = useCommands()
  const search = useSearch()
  const keys = useResultKeys(search)
  const field = useRef<HTMLInputElement>(null)
  const pane = useRef<HTMLDivElement>(null)
  useOffered(keys.hands, field, pane)
  useCueSearch(field)
  useNotedSearch()
  // The field is there at once for whoever types; the results follow the Sheet of a reel that is opened.
  const showsResults = useDeferredValue(true, false)
  return (
    <div ref={pane} className="flex min-h-0 flex-1 flex-col" data-sounds>
      <div className="flex flex-col gap-1.5 px-3 pt-3 pb-1.5">
        <SearchField onKeyDown={keys.inSearch} field={field} />
        <FilterBar params={search.params} withFacets />
        <div className="flex items-end justify-between gap-2">
          <SearchStatus search={search} />
          <LookChoice withTable={false} />
        </div>
      </div>
      {keys.marked.ids.length > 1 && <BulkBar brief ids={keys.marked.ids} onDone={keys.marked.clear} />}
      {showsResults && (
        <ResultList
          search={search}
          width={PANE}
          chosenId={sound?.id ?? null}
          marked={keys.marked.has}
          onChoose={keys.marked.choose}
          onTry={commands.tries.here}
          onKeyDown={keys.inList}
        />
      )}
      {sound && <ListeningStrip sound={sound} width={PANE - 24} />}
    </div>
  )
}

/** Offers the page what the pane can do: its search, and its results. */
function useOffered(
  hands: ResultHands,
  field: RefObject<HTMLInputElement | null>,
  pane: RefObject<HTMLElement | null>,
): void {
  const { parts } = useSession()
  useEffect(() => {
    const leave = (): void => {
      if (pane.current?.contains(document.activeElement)) hands.leave()
    }
    return parts.offer('results', { ...hands, leave })
  }, [parts, hands, pane])
  useEffect(() => {
    const focus = (): void => {
      field.current?.focus()
      field.current?.select()
    }
    return parts.offer('search', { focus })
  }, [parts, field])
}

/** Searches by the words of the cue that is selected, unless somebody is typing a search or tries a sound; what was tried before is done with. */
function useCueSearch(field: RefObject<HTMLInputElement | null>): void {
  const dispatch = useAppDispatch()
  const cue = useAppSelector((state) =>
    state.document.doc.cue.get(state.view.selected.find((id) => state.document.doc.cue.get(id)) ?? ''),
  )
  const words = cue ? [cue.words, cue.source].filter((text) => text !== '').join(' ') : ''
  const trying = useAppSelector((state) => state.trying.place !== null)
  const done = useAppSelector((state) => state.trying.done)
  const cueId = cue?.id
  // When the cue or its words change; not when a try ends.
  const search = useEffectEvent(() => {
    if (cueId === undefined || words === '' || trying || document.activeElement === field.current) return
    if (done) dispatch(tryActions.choose(null))
    dispatch(searchActions.search({ query: words, cueId }))
  })
  useEffect(() => search(), [cueId, words])
}

/** Notes a search once it has led to a try. */
function useNotedSearch(): void {
  const store = useAppStore()
  const place = useAppSelector((state) => state.trying.place)
  const [note] = api.useNoteSearchMutation()
  useEffect(() => {
    const { search, document } = store.getState()
    const query = searchText(search)
    if (place && query !== '' && search.queryOf === null)
      void note({ reelId: document.reelId ?? '', cueId: place.cueId ?? '', query })
  }, [place, store, note])
}
