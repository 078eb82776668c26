import { readTable, type Line } from './action.js'

/** What the grid of the list can be asked to do. */
export interface GridHands {
  /** Moves the cell that typing goes to. @param extend - The block grows to it instead. */
  move(down: number, right: number, extend?: boolean): void
  /** Begins to edit the cell: with a typed letter, or with what it holds (null). */
  begin(text: string | null): void
  clear(): void
  fillDown(): void
  selectAll(): void
  /** Leaves one cell selected. */
  single(): void
  removeCues(): void
  play(): void
}

const PAGE = 20
const FAR = 1_000_000

type Pressed = readonly [pressed: string, what: string, run: Line<GridHands>[3]]

const PRESSED: readonly Pressed[] = [
  ['ArrowDown', 'Next line', (g) => g.move(1, 0)],
  ['ArrowUp', 'Line before', (g) => g.move(-1, 0)],
  ['ArrowRight', 'Next column', (g) => g.move(0, 1)],
  ['ArrowLeft', 'Column before', (g) => g.move(0, -1)],
  ['Shift ArrowDown', 'Select a line more', (g) => g.move(1, 0, true)],
  ['Shift ArrowUp', 'Select a line more above', (g) => g.move(-1, 0, true)],
  ['Shift ArrowRight', 'Select a column more', (g) => g.move(0, 1, true)],
  ['Shift ArrowLeft', 'Select a column more on the left', (g) => g.move(0, -1, true)],
  ['Ctrl ArrowDown', 'Last line', (g) => g.move(FAR, 0)],
  ['Ctrl ArrowUp', 'First line', (g) => g.move(-FAR, 0)],
  ['Ctrl ArrowRight', 'Last column', (g) => g.move(0, FAR)],
  ['Ctrl ArrowLeft', 'First column', (g) => g.move(0, -FAR)],
  ['Ctrl Shift ArrowDown', 'Select to the last line', (g) => g.move(FAR, 0, true)],
  ['Ctrl Shift ArrowUp', 'Select to the first line', (g) => g.move(-FAR, 0, true)],
  ['Ctrl Shift ArrowRight', 'Select to the last column', (g) => g.move(0, FAR, true)],
  ['Ctrl Shift ArrowLeft', 'Select to the first column', (g) => g.move(0, -FAR, true)],
  ['PageDown', 'A page on', (g) => g.move(PAGE, 0)],
  ['PageUp', 'A page back', (g) => g.move(-PAGE, 0)],
  ['Shift PageDown', 'Select a page more', (g) => g.move(PAGE, 0, true)],
  ['Shift PageUp', 'Select a page more above', (g) => g.move(-PAGE, 0, true)],
  ['Home', 'First column', (g) => g.move(0, -FAR)],
  ['End', 'Last column', (g) => g.move(0, FAR)],
  ['Shift Home', 'Select to the first column', (g) => g.move(0, -FAR, true)],
  ['Shift End', 'Select to the last column', (g) => g.move(0, FAR, true)],
  ['Ctrl Home', 'First cell', (g) => g.move(-FAR, -FAR)],
  ['Ctrl End', 'Last cell', (g) => g.move(FAR, FAR)],
  ['Tab', 'Next column', (g) => g.move(0, 1)],
  ['Shift Tab', 'Column before', (g) => g.move(0, -1)],
  ['Enter', 'Edit the cell', (g) => g.begin(null)],
  ['F2', 'Edit the cell', (g) => g.begin(null)],
  ['Delete', 'Empty the cells', (g) => g.clear()],
  ['Ctrl Delete', 'Delete the cues', (g) => g.removeCues()],
  ['Ctrl a', 'Select all cells', (g) => g.selectAll()],
  ['Ctrl d', 'Fill down', (g) => g.fillDown()],
  ['Escape', 'Select this cell alone', (g) => g.single()],
  ['Space', 'Play or stop', (g) => g.play()],
]

/** The keys of the list, as a spreadsheet has them, and as nobody changes them; Space plays and stops. */
export const GRID_ACTIONS = readTable<GridHands>(
  PRESSED.map(([pressed, ...rest]) => [`grid ${pressed}`, pressed, ...rest]),
)
