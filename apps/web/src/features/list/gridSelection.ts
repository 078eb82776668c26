/** A cell of the list: a row by its cue's id, a column by its key, so that sorting moves neither. */
export interface CellRef {
  readonly row: string
  readonly column: string
}

/** A block of cells between two corners; `focus` is the one that typing goes to. */
export interface GridSelection {
  readonly anchor: CellRef
  readonly focus: CellRef
}

/** What is on the screen, in its order. */
export interface GridAxes {
  readonly rows: readonly string[]
  readonly columns: readonly string[]
}

/** Selects a single cell, or stretches the block to it. */
export function selectCell(selection: GridSelection | null, cell: CellRef, extend: boolean): GridSelection {
  return { anchor: extend && selection ? selection.anchor : cell, focus: cell }
}

/** Moves the focus by rows and columns, stopping at the edges; a row or column that has gone is taken as the first. */
export function moveFocus(
  selection: GridSelection | null,
  axes: GridAxes,
  down: number,
  right: number,
  extend: boolean,
): GridSelection | null {
  const { rows, columns } = axes
  if (rows.length === 0 || columns.length === 0) return null
  const clamp = (value: number, count: number): number => Math.max(0, Math.min(count - 1, value))
  const row = selection ? clamp(rows.indexOf(selection.focus.row) + down, rows.length) : 0
  const column = selection ? clamp(columns.indexOf(selection.focus.column) + right, columns.length) : 0
  return selectCell(selection, { row: rows[row] as string, column: columns[column] as string }, extend)
}

/** The block as rows and columns in the order of the screen; empty when a corner is no longer shown. */
export function blockOf(selection: GridSelection | null, axes: GridAxes): GridAxes {
  if (!selection) return { rows: [], columns: [] }
  const between = (all: readonly string[], a: string, b: string): string[] => {
    const [from, to] = [all.indexOf(a), all.indexOf(b)].sort((x, y) => x - y) as [number, number]
    return from < 0 ? [] : all.slice(from, to + 1)
  }
  return {
    rows: between(axes.rows, selection.anchor.row, selection.focus.row),
    columns: between(axes.columns, selection.anchor.column, selection.focus.column),
  }
}
