import { useEffect } from 'react'
import { useCommands } from '../commands/commands.js'
import { isTaken } from './keys.js'

/** Ctrl Z and Ctrl Shift Z, on every page of a reel. In a field they belong to the field. */
export function UndoKeys() {
  const commands = useCommands()
  useEffect(() => {
    const onDown = (event: KeyboardEvent): void => {
      const key = event.key.toLowerCase()
      if (!(event.ctrlKey || event.metaKey) || (key !== 'z' && key !== 'y')) return
      if (isTaken(event)) return
      event.preventDefault()
      if (key === 'y' || event.shiftKey) commands.redo()
      else commands.undo()
    }
    addEventListener('keydown', onDown)
    return () => removeEventListener('keydown', onDown)
  }, [commands])
  return null
}
