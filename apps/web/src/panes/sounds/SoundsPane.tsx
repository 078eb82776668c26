import { useEffect, useMemo } from 'react'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector, useAppStore } from '../../document/store.js'
import { useCommands } from '../../commands/commands.js'
import { FilterBar } from './FilterBar.js'
import { SoundHandsContext, type SoundHands } from './hands.js'
import { ListeningStrip } from './ListeningStrip.js'
import { QualityLegend } from './Qualities.js'
import { ResultList } from './ResultList.js'
import { SearchField } from './SearchField.js'
import { searchActions, searchText } from '../../document/searchSlice.js'
import { SearchStatus } from './SearchStatus.js'
import { useResultKeys } from './useResultKeys.js'
import { useSearch } from './useSearch.js'

const WIDTH = 306

/** Sounds beside the Sheet: search, results and the listening strip. A selected cue's words are searched at once. */
export function SoundsPane() {
  const commands = useCommands()
  const hands = useMemo<SoundHands>(
    () => ({
      listening: commands.listening,
      reel: {
        prepare: commands.prepare,
        tryHere: commands.tryHere,
        keep: commands.keep,
        hold: commands.hold,
        putBack: commands.putBack,
      },
    }),
    [commands],
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
  const { choose, onKeyDown } = useResultKeys(search)
  useCueSearch()
  useNotedSearch()
  return (
    <aside
      className="flex w-[306px] shrink-0 flex-col border-l border-line bg-paper"
      aria-label="Sounds"
      data-sounds
    >
      <div className="flex flex-col gap-1.5 px-3 pt-3 pb-1.5">
        <SearchField onKeyDown={onKeyDown} />
        <FilterBar params={search.params} withFacets />
        <div className="flex items-end justify-between gap-2">
          <SearchStatus search={search} />
          <QualityLegend />
        </div>
      </div>
      <ResultList
        search={search}
        width={WIDTH}
        chosenId={sound?.id ?? null}
        marked={NONE}
        onChoose={choose}
        onTry={commands.tryHere}
        onKeyDown={onKeyDown}
      />
      {sound && <ListeningStrip sound={sound} width={WIDTH - 24} />}
    </aside>
  )
}

const NONE: ReadonlySet<string> = new Set()

/** Searches by the words of the cue that is selected, unless somebody is typing a search or tries a sound. */
function useCueSearch(): void {
  const dispatch = useAppDispatch()
  const cue = useAppSelector((state) =>
    state.document.doc.cue.get(state.view.selected.find((id) => state.document.doc.cue.get(id)) ?? ''),
  )
  const words = cue ? [cue.words, cue.source].filter((text) => text !== '').join(' ') : ''
  const trying = useAppSelector((state) => state.trying.place !== null)
  useEffect(() => {
    if (!cue || words === '' || trying || document.activeElement?.matches('[data-search]')) return
    dispatch(searchActions.search({ query: words, cueId: cue.id }))
    // When the cue or its words change; not when a try ends.
  }, [cue?.id, words, dispatch])
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
