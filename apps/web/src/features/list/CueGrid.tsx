import { cueField, type Cue } from '@yodel/core'
import type { Row, Table } from '@tanstack/react-table'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useCallback, useEffect, useEffectEvent, useMemo, useRef, useState, type ClipboardEvent } from 'react'
import { useAppDispatch, useAppSelector, useAppStore } from '../../document/store.js'
import { viewActions } from '../../document/viewSlice.js'
import { useSession } from '../../session/session.js'
import { CellEditor, type EditEnd } from './CellEditor.js'
import { GridHead } from './GridHead.js'
import { GridRow, GroupRow } from './GridRow.js'
import { blockOf, moveFocus, selectCell, type GridAxes, type GridSelection } from './gridSelection.js'
import { ROW, type ListView } from './listView.js'
import { useGridCells } from './useGridCells.js'
import { useGridKeys } from './useGridKeys.js'

/** The spotting list as a spreadsheet: cells are typed, copied and pasted in blocks; picture and gate follow the row. */
export function CueGrid({
  table,
  view,
  onView,
}: {
  table: Table<Cue>
  view: ListView
  onView: (view: ListView) => void
}) {
  const dispatch = useAppDispatch()
  const doc = useAppSelector((state) => state.document.doc)
  const [typed, setTyped] = useState<{ text: string | null } | null>(null)
  const scroller = useRef<HTMLDivElement>(null)
  const rows = table.getRowModel().rows
  const columns = table.getVisibleLeafColumns()
  const width = columns.reduce((sum, column) => sum + column.getSize(), 0)
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  })
  const { selection, axes, block, focusOn } = useGridFocus(table, (index) => virtual.scrollToIndex(index))
  const cells = useGridCells(block, axes)
  const focus = (next: GridSelection | null): void => {
    setTyped(null)
    focusOn(next)
  }
  const onEnd = (end: EditEnd): boolean => {
    if (end.kind === 'commit' && selection) {
      const { row: id, column: field } = selection.focus
      if (!(end.all ? cells.fill(end.text) : cells.write([{ id, field, text: end.text }]))) return false
      setTyped(null)
      if (end.down !== 0 || end.right !== 0) focus(moveFocus(selection, axes, end.down, end.right, false))
    } else setTyped(null)
    scroller.current?.focus({ preventScroll: true })
    return true
  }
  const onKeyDown = useGridKeys({
    selection,
    axes,
    block,
    focus,
    begin: (text) => {
      if (!selection) return
      const field = cueField(selection.focus.column)
      if (field.read) return setTyped({ text })
      dispatch(viewActions.notify({ tone: 'plain', text: `${field.title} is computed and can’t be typed.` }))
    },
    clear: cells.clear,
    fillDown: cells.fillDown,
    all: () => {
      const [row, last, column, end] = [axes.rows[0], axes.rows.at(-1), axes.columns[0], axes.columns.at(-1)]
      if (row && last && column && end) focus({ anchor: { row: last, column: end }, focus: { row, column } })
    },
  })
  // Rows that did not change keep their functions, so these must not hold on to a selection of before.
  const latest = useRef((_row: string, _column: string, _extend: boolean): void => undefined)
  latest.current = (row, column, extend) => {
    scroller.current?.focus({ preventScroll: true })
    focus(selectCell(selection, { row, column }, extend))
  }
  const onPick = useCallback(
    (row: string, column: string, extend: boolean) => latest.current(row, column, extend),
    [],
  )
  const onOpen = useCallback(() => setTyped({ text: null }), [])
  /** A cell that is being typed in has keys and clipboard to itself. */
  const unlessTyped =
    <E,>(handler: (event: E) => void) =>
    (event: E): void => {
      if (!typed) handler(event)
    }
  const onBlock = (handler: (event: ClipboardEvent) => void) =>
    unlessTyped((event: ClipboardEvent) => {
      if (selection) handler(event)
    })

  return (
    <div
      ref={scroller}
      className="min-h-0 flex-1 overflow-auto outline-none"
      tabIndex={0}
      role="grid"
      aria-label="Spotting list"
      aria-rowcount={axes.rows.length}
      onKeyDown={unlessTyped(onKeyDown)}
      onCopy={onBlock(cells.onCopy)}
      onCut={onBlock(cells.onCopy)}
      onPaste={onBlock(cells.onPaste)}
      data-grid
    >
      <GridHead columns={columns} width={width} view={view} onView={onView} />
      <div className="relative" style={{ height: virtual.getTotalSize(), width }}>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index] as Row<Cue>
          if (row.getIsGrouped()) return <GroupRow key={row.id} row={row} top={item.start} width={width} />
          const inBlock = block.rows.includes(row.id)
          return (
            <GridRow
              key={row.id}
              cue={row.original}
              doc={doc}
              columns={columns}
              top={item.start}
              width={width}
              selected={inBlock ? block.columns : null}
              focus={selection?.focus.row === row.id ? selection.focus.column : null}
              editor={
                typed && selection?.focus.row === row.id ? (
                  <CellEditor
                    field={cueField(selection.focus.column)}
                    text={cueField(selection.focus.column).text(doc, row.original)}
                    typed={typed.text}
                    onEnd={onEnd}
                  />
                ) : null
              }
              onPick={onPick}
              onOpen={onOpen}
            />
          )
        })}
      </div>
    </div>
  )
}

/**
 * Which cells are selected. The gate, and what is selected on the Sheet, go along with the row; a cue that was
 * selected elsewhere is shown here, too.
 */
function useGridFocus(table: Table<Cue>, scrollTo: (index: number) => void) {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const { transport } = useSession()
  const [selection, setSelection] = useState<GridSelection | null>(null)
  const rows = table.getRowModel().rows
  const columns = table.getVisibleLeafColumns()
  const axes: GridAxes = useMemo(
    () => ({
      rows: rows.filter((row) => !row.getIsGrouped()).map((row) => row.id),
      columns: columns.map((column) => column.id),
    }),
    [rows, columns],
  )
  const block: GridAxes = useMemo(() => blockOf(selection, axes), [selection, axes])
  const indexOf = (id: string): number => rows.findIndex((row) => row.id === id && !row.getIsGrouped())
  const focusOn = (next: GridSelection | null): void => {
    setSelection(next)
    if (!next) return
    const index = indexOf(next.focus.row)
    if (index >= 0) scrollTo(index)
    dispatch(viewActions.select(blockOf(next, axes).rows))
    const cue = store.getState().document.doc.cue.get(next.focus.row)
    if (cue && next.focus.row !== selection?.focus.row && !transport.rolling) transport.goToFrame(cue.in)
  }
  const elsewhere = useAppSelector((state) => state.view.selected[0] ?? null)
  const show = useEffectEvent(() => {
    if (elsewhere === null || elsewhere === selection?.focus.row || block.rows.includes(elsewhere)) return
    const index = indexOf(elsewhere)
    if (index < 0) return
    scrollTo(index)
    setSelection(selectCell(null, { row: elsewhere, column: selection?.focus.column ?? 'words' }, false))
  })
  // Only when another cue is selected; rows change with every edit.
  useEffect(() => show(), [elsewhere])
  return { selection, axes, block, focusOn }
}
