import type { KeyboardEvent } from 'react'
import { actionOf } from '../../actions/action.js'
import { GRID_ACTIONS, type GridHands } from '../../actions/gridActions.js'
import { useKeyboard } from '../../actions/useKeys.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { moveFocus, type GridAxes, type GridSelection } from './gridSelection.js'

/** The keys of the list; their table is in actions/gridActions.ts. A letter begins to edit the cell. */
export function useGridKeys(grid: {
  selection: GridSelection | null
  axes: GridAxes
  block: GridAxes
  focus: (next: GridSelection | null) => void
  /** Begins editing with a typed letter, or with what the cell holds (null). */
  begin: (text: string | null) => void
  clear: () => void
  fillDown: () => void
  all: () => void
}): (event: KeyboardEvent) => void {
  const commands = useCommands()
  const keyboard = useKeyboard()
  const { selection, axes, focus } = grid
  const hands: GridHands = {
    move: (down, right, extend = false) => focus(moveFocus(selection, axes, down, right, extend)),
    begin: grid.begin,
    clear: grid.clear,
    fillDown: grid.fillDown,
    selectAll: grid.all,
    single: () => focus(selection && { anchor: selection.focus, focus: selection.focus }),
    removeCues: commands.shape.remove,
    play: commands.move.toggle,
  }
  return (event) => {
    const command = event.ctrlKey || event.metaKey
    const action = actionOf(GRID_ACTIONS, event, keyboard)
    // The first cell can be left backwards and the last one forwards, so that the keyboard is never caught here.
    if (event.key === 'Tab' && !command && atEdge(grid, event.shiftKey)) return
    const typed = !command && !event.altKey && event.key.length === 1
    if (!action && !typed) return
    event.preventDefault()
    event.stopPropagation()
    if (action) action.run(hands)
    else grid.begin(event.key)
  }
}

function atEdge(
  { selection, axes }: { selection: GridSelection | null; axes: GridAxes },
  backwards: boolean,
): boolean {
  return !selection || selection.focus.column === (backwards ? axes.columns[0] : axes.columns.at(-1))
}
