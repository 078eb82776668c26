import { useTables } from '../../document/useTables.js'
import { nearUses } from '@yodel/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useEffectEvent, useMemo, useRef, type KeyboardEvent, type MouseEvent } from 'react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { SOUND_DRAG } from '../../sheet/useSoundDrop.js'
import { columnWidth, type ResultsLook } from '../../document/resultsLook.js'
import { columnsShown } from './resultColumns.js'
import { ResultHead } from './ResultHead.js'
import { ResultRow, ROWS, type RowActs } from './ResultRow.js'
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
  /** Whether there is room for a table, where that is the look that was chosen. */
  withTable?: boolean
  onKeyDown: (event: KeyboardEvent) => void
}) {
  const { search, chosenId, marked, withTable = false } = props
  const look = useLook(withTable)
  const isTable = look.rows === 'table'
  const dispatch = useAppDispatch()
  const { sounds, more } = search
  const list = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({
    count: sounds.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROWS[look.rows],
    scrollPaddingStart: isTable ? HEAD : 0,
    scrollMargin: isTable ? HEAD : 0,
    overscan: 2,
  })
  useEffect(() => rows.measure(), [look.rows, rows])
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
  const wide = isTable
    ? columnsShown(look).reduce((sum, { key }) => sum + columnWidth(look, key), 12)
    : undefined
  return (
    <div ref={list} className="flex min-h-0 flex-1 flex-col overflow-auto">
      {isTable && <ResultHead look={look} />}
      <div
        className="min-w-full flex-1 outline-none focus-visible:bg-paper-2"
        style={{ width: wide }}
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
                look={look}
                sound={sound}
                top={row.start - rows.options.scrollMargin}
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
    </div>
  )
}

/** Height of the headings of the table. */
const HEAD = 26

/** How results are shown here: without room for a table on one line each. */
function useLook(withTable: boolean): ResultsLook {
  const look = useAppSelector((state) => state.search.look)
  return useMemo(
    () => (look.rows === 'table' && !withTable ? { ...look, rows: 'dense' } : look),
    [look, withTable],
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
