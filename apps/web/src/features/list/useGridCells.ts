import { cueField, editCells, type CellEdit } from '@yodel/core'
import type { ClipboardEvent } from 'react'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import type { GridAxes } from './gridSelection.js'
import { blockToText, pasteCells, textToBlock } from './pasteCells.js'

/** What can be done with a block of cells at once; each is one change, and one undo. */
export interface GridCells {
  /** Writes cells; says whether all of them could be read and kept. */
  readonly write: (cells: readonly CellEdit[], label?: string) => boolean
  /** Writes one text into every cell of the block. */
  readonly fill: (text: string) => boolean
  readonly clear: () => void
  readonly fillDown: () => void
  /** For copy and cut. */
  readonly onCopy: (event: ClipboardEvent) => void
  readonly onPaste: (event: ClipboardEvent) => void
}

/** The cells of the list under a block. */
export function useGridCells(block: GridAxes, axes: GridAxes): GridCells {
  const dispatch = useAppDispatch()
  const doc = useAppSelector((state) => state.document.doc)
  const textOf = (id: string, key: string): string => {
    const cue = doc.cue.get(id)
    return cue ? cueField(key).text(doc, cue) : ''
  }
  const write = (cells: readonly CellEdit[], label?: string): boolean =>
    dispatch(edit((now) => editCells(now, { cells, ...(label ? { label } : {}) })))
  const every = (rows: readonly string[], columns: readonly string[], text: (field: string) => string) =>
    rows.flatMap((id) => columns.map((field) => ({ id, field, text: text(field) })))
  const clear = (label: string): void =>
    void write(
      every(block.rows, block.columns.filter(canClear), () => ''),
      label,
    )
  return {
    write,
    fill: (text) => write(every(block.rows, block.columns, () => text)),
    clear: () => clear('Clear cells'),
    fillDown: () => {
      const [first, ...rest] = block.rows
      if (first !== undefined && rest.length > 0)
        write(
          every(rest, block.columns, (field) => textOf(first, field)),
          'Fill down',
        )
    },
    onCopy: (event) => {
      event.preventDefault()
      const rows = block.rows.map((id) => block.columns.map((key) => textOf(id, key)))
      event.clipboardData.setData('text/plain', blockToText(rows))
      if (event.type === 'cut') clear('Cut cells')
    },
    onPaste: (event) => {
      event.preventDefault()
      const cells = pasteCells(textToBlock(event.clipboardData.getData('text/plain')), block, axes)
      if (cells.length > 0) write(cells, `Paste ${cells.length} cell${cells.length === 1 ? '' : 's'}`)
    },
  }
}

/** Columns that may be emptied: words, not times or numbers. */
function canClear(key: string): boolean {
  const field = cueField(key)
  return field.read !== null && !['code', 'number', 'in', 'out', 'sync', 'category', 'state'].includes(key)
}
