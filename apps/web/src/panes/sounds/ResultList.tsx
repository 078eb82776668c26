import { useTables } from '../../document/useTables.js'
import { nearUses } from '@yodel/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useEffectEvent, useMemo, useRef, type KeyboardEvent, type MouseEvent } from 'react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { SOUND_DRAG } from '../../sheet/useSoundDrop.js'
import { ResultRow, ROW, type RowActs } from './ResultRow.js'
import { tryActions } from '../../document/trySlice.js'
import type { Search } from './useSearch.js'

/** A sound used within so many seconds of the place that is searched for may be heard as the same again. */
const NEAR_S = 60

/** Results under each other. Which is chosen, and what keys do, is the place's own. */
export function ResultList(props: {
  search: Search
  width: number
  chosenId: string | null
  /** Those that an act on several works on; the chosen one alone when empty. */
  marked: ReadonlySet<string>
  onChoose: (index: number, event?: MouseEvent) => void
  onTry: (() => void) | null
  onKeyDown: (event: KeyboardEvent) => void
}) {
  const { search, chosenId, marked } = props
  const dispatch = useAppDispatch()
  const { sounds, more } = search
  const list = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({
    count: sounds.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW,
    overscan: 2,
  })
  const visible = rows.getVirtualItems()
  const last = visible.at(-1)?.index ?? 0
  useEffect(() => {
    if (last >= sounds.length - 12) more?.()
  }, [last, sounds.length, more])
  const at = sounds.findIndex((sound) => sound.id === chosenId)
  // Only when another is chosen: scrolling by hand must not be undone.
  const showChosen = useEffectEvent(() => {
    if (at >= 0) rows.scrollToIndex(at)
  })
  useEffect(() => showChosen(), [chosenId])
  useEffect(() => {
    list.current?.scrollTo({ top: 0 })
  }, [search.params])
  const near = useNearUses()
  // The same for every row as long as the list stands, so that typing draws no row anew.
  const latest = useRef(props)
  latest.current = props
  const acts = useMemo(
    (): RowActs => ({
      choose: (index, event) => latest.current.onChoose(index, event),
      use: () => latest.current.onTry?.(),
      drag: (event, sound) => {
        event.dataTransfer.setData(SOUND_DRAG, sound.id)
        if (sound.id !== latest.current.chosenId) dispatch(tryActions.choose(sound))
      },
    }),
    [dispatch],
  )
  return (
    <div
      ref={list}
      className="min-h-0 flex-1 overflow-y-auto outline-none focus-visible:bg-paper-2"
      tabIndex={0}
      role="listbox"
      data-shown={search.shown ?? undefined}
      aria-label="Results"
      onKeyDown={props.onKeyDown}
    >
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {visible.map((row) => {
          const sound = sounds[row.index]
          return sound ? (
            <ResultRow
              key={sound.id}
              index={row.index}
              sound={sound}
              top={row.start}
              width={props.width}
              chosen={sound.id === chosenId}
              marked={marked.has(sound.id)}
              near={near.get(sound.id) ?? null}
              acts={acts}
              draggable={props.onTry !== null}
            />
          ) : null
        })}
      </div>
    </div>
  )
}

const NONE: ReadonlyMap<string, string> = new Map()

/** Sounds that are placed near the selected cue, by the timecode of the nearest place: so that no step is heard twice by accident. */
function useNearUses(): ReadonlyMap<string, string> {
  const doc = useTables('clip', 'cue', 'reel')
  const cueId = useAppSelector((state) => state.view.selected.find((id) => state.document.doc.cue.get(id)))
  const cue = cueId === undefined ? undefined : doc.cue.get(cueId)
  const frame = cue?.sync
  return useMemo(() => (frame === undefined ? NONE : nearUses(doc, frame, NEAR_S)), [doc, frame])
}
