import type { CellEdit } from '@yodel/core'
import Papa from 'papaparse'
import type { GridAxes } from './gridSelection.js'

/** A block of cells as spreadsheets exchange it: tabs between cells, quotation marks around what needs them. */
export function blockToText(cells: readonly (readonly string[])[]): string {
  return Papa.unparse(cells as string[][], { delimiter: '\t', newline: '\n' })
}

/** A block from the clipboard. */
export function textToBlock(text: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter: '\t' })
  return data
}

/**
 * Lays a block over the list: from the top left cell of the selection, or, when the selection is larger and a whole
 * number of blocks fits, as often as it fits, as spreadsheets do. What reaches over the edge is left out.
 *
 * @param target - The selected block.
 * @param axes - All rows and columns on the screen.
 */
export function pasteCells(
  block: readonly (readonly string[])[],
  target: GridAxes,
  axes: GridAxes,
): CellEdit[] {
  const high = block.length
  const wide = Math.max(0, ...block.map((row) => row.length))
  const [top, left] = [axes.rows.indexOf(target.rows[0] ?? ''), axes.columns.indexOf(target.columns[0] ?? '')]
  if (high === 0 || wide === 0 || top < 0 || left < 0) return []
  const times = (selected: number, size: number): number =>
    selected > size && selected % size === 0 ? selected : size
  const cells: CellEdit[] = []
  for (let down = 0; down < times(target.rows.length, high); down++) {
    for (let right = 0; right < times(target.columns.length, wide); right++) {
      const id = axes.rows[top + down]
      const field = axes.columns[left + right]
      const text = block[down % high]?.[right % wide]
      if (id !== undefined && field !== undefined && text !== undefined) cells.push({ id, field, text })
    }
  }
  return cells
}
