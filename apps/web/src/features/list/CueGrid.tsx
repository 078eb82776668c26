import { cueField, editCells, type CellEdit, type Cue } from '@yodel/core'
import type { Row, Table } from '@tanstack/react-table'
import { useVirtualizer } from '@tanstack/react-virtual'
import {
  useCallback,
  useEffect,
  useEffectEvent,
  useMemo,
  useRef,
  useState,
  type ClipboardEvent,
  type KeyboardEvent,
} from 'react'
import { useAppDispatch, useAppSelector, useAppStore } from '../../document/store.js'
import { edit } from '../../document/edit.js'
import { useSession } from '../../session/session.js'
import { viewActions } from '../../document/viewSlice.js'
import { CellEditor, type EditEnd } from './CellEditor.js'
import { blockToText, pasteCells, textToBlock } from './pasteCells.js'
import { blockOf, moveFocus, selectCell, type GridSelection } from './gridSelection.js'
import { GridHead } from './GridHead.js'
import { GridRow, GroupRow } from './GridRow.js'
import { useGridKeys } from './useGridKeys.js'
import { ROW, type ListView } from './listView.js'

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
  const store = useAppStore()
  const { transport } = useSession()
  const doc = useAppSelector((state) => state.document.doc)
  const [selection, setSelection] = useState<GridSelection | null>(null)
  const [typed, setTyped] = useState<{ text: string | null } | null>(null)
  const scroller = useRef<HTMLDivElement>(null)
  const rows = table.getRowModel().rows
  const columns = table.getVisibleLeafColumns()
  const axes = useMemo(
    () => ({
      rows: rows.filter((row) => !row.getIsGrouped()).map((row) => row.id),
      columns: columns.map((column) => column.id),
    }),
    [rows, columns],
  )
  const block = useMemo(() => blockOf(selection, axes), [selection, axes])
  const width = columns.reduce((sum, column) => sum + column.getSize(), 0)
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  })

  const focus = (next: GridSelection | null): void => {
    setSelection(next)
    setTyped(null)
    if (!next) return
    const index = rows.findIndex((row) => row.id === next.focus.row && !row.getIsGrouped())
    if (index >= 0) virtual.scrollToIndex(index)
    dispatch(viewActions.select(blockOf(next, axes).rows))
    const cue = store.getState().document.doc.cue.get(next.focus.row)
    if (cue && next.focus.row !== selection?.focus.row && !transport.rolling) transport.goToFrame(cue.in)
  }
  // A cue that was chosen elsewhere (or just dropped) is shown here, too.
  const chosen = useAppSelector((state) => state.view.selected[0] ?? null)
  const show = useEffectEvent(() => {
    if (chosen === null || chosen === selection?.focus.row || block.rows.includes(chosen)) return
    const index = rows.findIndex((row) => row.id === chosen)
    if (index < 0) return
    virtual.scrollToIndex(index, { align: 'auto' })
    setSelection(selectCell(null, { row: chosen, column: selection?.focus.column ?? 'words' }, false))
  })
  // Only when another cue is chosen; rows change with every edit.
  useEffect(() => show(), [chosen])

  const write = (cells: readonly CellEdit[], label?: string): boolean =>
    dispatch(edit((now) => editCells(now, { cells, ...(label ? { label } : {}) })))
  const onEnd = (end: EditEnd): boolean => {
    if (end.kind === 'commit' && selection) {
      const cells = end.all
        ? block.rows.flatMap((id) => block.columns.map((field) => ({ id, field, text: end.text })))
        : [{ id: selection.focus.row, field: selection.focus.column, text: end.text }]
      if (!write(cells)) return false
      setTyped(null)
      if (end.down !== 0 || end.right !== 0) focus(moveFocus(selection, axes, end.down, end.right, false))
    } else setTyped(null)
    scroller.current?.focus({ preventScroll: true })
    return true
  }
  const copied = (): string =>
    blockToText(
      block.rows.map((id) =>
        block.columns.map((key) => {
          const cue = doc.cue.get(id)
          return cue ? cueField(key).text(doc, cue) : ''
        }),
      ),
    )
  const clear = (label: string): boolean =>
    write(
      block.rows.flatMap((id) =>
        block.columns.filter((key) => canClear(key)).map((field) => ({ id, field, text: '' })),
      ),
      label,
    )
  const onCopy = (event: ClipboardEvent): void => {
    if (typed || !selection) return
    event.preventDefault()
    event.clipboardData.setData('text/plain', copied())
    if (event.type === 'cut') clear('Cut cells')
  }
  const onPaste = (event: ClipboardEvent): void => {
    if (typed || !selection) return
    event.preventDefault()
    const cells = pasteCells(textToBlock(event.clipboardData.getData('text/plain')), block, axes)
    if (cells.length > 0) write(cells, `Paste ${cells.length} cell${cells.length === 1 ? '' : 's'}`)
  }
  const onKeyDown = useGridKeys({
    selection,
    axes,
    block,
    focus,
    begin: (text) => {
      const key = selection?.focus.column
      if (key === undefined) return
      if (cueField(key).read) setTyped({ text })
      else
        dispatch(
          viewActions.notify({
            tone: 'plain',
            text: `${cueField(key).title} is computed and can’t be typed.`,
          }),
        )
    },
    clear: () => clear('Clear cells'),
    fillDown: () => {
      const [first, ...rest] = block.rows
      const cue = doc.cue.get(first ?? '')
      if (cue && rest.length > 0)
        write(
          rest.flatMap((id) =>
            block.columns.map((field) => ({ id, field, text: cueField(field).text(doc, cue) })),
          ),
          'Fill down',
        )
    },
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
  const guarded = (event: KeyboardEvent): void => {
    if (typed === null) onKeyDown(event)
  }

  return (
    <div
      ref={scroller}
      className="min-h-0 flex-1 overflow-auto outline-none"
      tabIndex={0}
      role="grid"
      aria-label="Spotting list"
      aria-rowcount={axes.rows.length}
      onKeyDown={guarded}
      onCopy={onCopy}
      onCut={onCopy}
      onPaste={onPaste}
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

/** Columns that may be emptied: words, not times or numbers. */
function canClear(key: string): boolean {
  const field = cueField(key)
  return field.read !== null && !['code', 'number', 'in', 'out', 'sync', 'category', 'state'].includes(key)
}
