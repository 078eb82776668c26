import type { KeyboardEvent } from 'react'
import { useCommands } from '../../commands/commands.js'
import { useSession } from '../../session/session.js'
import { moveFocus, type GridAxes, type GridSelection } from './gridSelection.js'

const PAGE = 20

/** The keys of the list, as a spreadsheet has them; Space plays and stops. */
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
  const { transport } = useSession()
  return (event) => {
    const { selection, axes, focus } = grid
    const move = (down: number, right: number): void =>
      focus(
        moveFocus(
          selection,
          axes,
          down,
          right,
          event.shiftKey && event.key !== 'Tab' && event.key !== 'Enter',
        ),
      )
    const command = event.ctrlKey || event.metaKey
    const far = 1_000_000
    const acts: Record<string, () => void> = {
      'ArrowDown': () => move(command ? far : 1, 0),
      'ArrowUp': () => move(command ? -far : -1, 0),
      'ArrowRight': () => move(0, command ? far : 1),
      'ArrowLeft': () => move(0, command ? -far : -1),
      'PageDown': () => move(PAGE, 0),
      'PageUp': () => move(-PAGE, 0),
      'Home': () => move(command ? -far : 0, -far),
      'End': () => move(command ? far : 0, far),
      'Tab': () => move(0, event.shiftKey ? -1 : 1),
      'Enter': () => grid.begin(null),
      'F2': () => grid.begin(null),
      'Delete': grid.clear,
      'Backspace': grid.clear,
      ' ': () => transport.toggle(),
      'Escape': () => focus(selection && { anchor: selection.focus, focus: selection.focus }),
    }
    const commanded: Record<string, () => void> = {
      a: grid.all,
      d: grid.fillDown,
      Delete: commands.remove,
      Backspace: commands.remove,
    }
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
    const act = (command ? commanded[key] : undefined) ?? acts[key]
    // The first cell can be left backwards and the last one forwards, so that the keyboard is never caught here.
    if (event.key === 'Tab' && !command && atEdge(grid, event.shiftKey)) return
    if (act) {
      event.preventDefault()
      event.stopPropagation()
      act()
    } else if (!command && !event.altKey && event.key.length === 1) {
      event.preventDefault()
      event.stopPropagation()
      grid.begin(event.key)
    }
  }
}

function atEdge(
  { selection, axes }: { selection: GridSelection | null; axes: GridAxes },
  backwards: boolean,
): boolean {
  return !selection || selection.focus.column === (backwards ? axes.columns[0] : axes.columns.at(-1))
}
