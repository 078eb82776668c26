import { useCallback, useEffect, useState } from 'react'
import { useAppDispatch, useAppSelector, useAppStore } from '../../document/store.js'
import { Engine } from '../../engine/Engine.js'
import { LastReelBar } from '../../panes/shell/LastReelBar.js'
import { PageNotices } from '../../panes/shell/PageNotices.js'
import { viewActions } from '../../document/viewSlice.js'
import { Shelves } from './shelves/Shelves.js'
import { BulkBar } from '../../panes/sounds/BulkBar.js'
import { Facets } from '../../panes/sounds/Facets.js'
import { FilterBar } from '../../panes/sounds/FilterBar.js'
import { SoundHandsContext, type SoundHands } from '../../panes/sounds/hands.js'
import { Kits } from './Kits.js'
import { Pools } from './Pools.js'
import { Listening } from '../../session/Listening.js'
import { ListeningStrip } from '../../panes/sounds/ListeningStrip.js'
import { LookChoice } from '../../panes/sounds/LookChoice.js'
import { ResultList } from '../../panes/sounds/ResultList.js'
import { SearchField } from '../../panes/sounds/SearchField.js'
import { SearchStatus } from '../../panes/sounds/SearchStatus.js'
import { tryActions } from '../../document/trySlice.js'
import { useResultKeys } from '../../panes/sounds/useResultKeys.js'
import { useSearch } from '../../panes/sounds/useSearch.js'

const WIDE = 384

/** All sounds: shelves and kits at the left, results in the middle, the chosen one at the right. */
export function SoundsPage() {
  const store = useAppStore()
  const dispatch = useAppDispatch()
  const [hands, setHands] = useState<SoundHands | null>(null)
  useEffect(() => {
    dispatch(tryActions.putBack())
    const engine = new Engine()
    const refuse = (text: string): void => void dispatch(viewActions.notify({ tone: 'problem', text }))
    engine.onTrouble = refuse
    setHands({ listening: new Listening(store, engine, refuse), reel: null })
    return () => engine.dispose()
  }, [store, dispatch])
  return hands ? (
    <SoundHandsContext value={hands}>
      <Page />
    </SoundHandsContext>
  ) : null
}

function Page() {
  const search = useSearch()
  const sound = useAppSelector((state) => state.trying.sound)
  const keys = useResultKeys(search)
  const [width, setWidth] = useState(500)
  const measure = useCallback((element: HTMLElement | null) => {
    if (!element) return
    const observer = new ResizeObserver(() => setWidth(element.clientWidth))
    observer.observe(element)
    return () => observer.disconnect()
  }, [])
  return (
    <div className="flex h-full flex-col">
      <LastReelBar />
      <main className="flex min-h-0 flex-1">
        <aside
          className="w-[276px] shrink-0 overflow-y-auto border-r border-line p-3"
          aria-label="Shelves, kits and filters"
        >
          <Shelves />
          <Kits />
          <Pools />
          <Facets params={search.params} withShelves={false} />
        </aside>
        <section ref={measure} className="flex min-w-0 flex-1 flex-col" aria-label="Search">
          <div className="flex flex-col gap-1.5 px-3 pt-3 pb-1.5">
            <SearchField onKeyDown={keys.inSearch} />
            <FilterBar params={search.params} withFacets={false} />
            <div className="flex items-end justify-between gap-2">
              <SearchStatus search={search} />
              <LookChoice withTable />
            </div>
          </div>
          {keys.marked.ids.length > 1 && <BulkBar ids={keys.marked.ids} onDone={keys.marked.clear} />}
          <ResultList
            search={search}
            width={width}
            chosenId={sound?.id ?? null}
            marked={keys.marked.has}
            onChoose={keys.marked.choose}
            onTry={null}
            withTable
            onKeyDown={keys.inList}
          />
        </section>
        <aside
          className="flex w-[408px] shrink-0 flex-col border-l border-line [&>[data-strip]]:max-h-none"
          aria-label="The chosen sound"
        >
          {sound ? (
            <ListeningStrip sound={sound} width={WIDE} />
          ) : (
            <p className="p-4 text-ink-2">
              Choose a sound to hear it. ↓ and ↑ go through the results, → and ← through the events of one,
              Shift with either marks several.
            </p>
          )}
        </aside>
      </main>
      <PageNotices />
    </div>
  )
}
