import type { CueField } from '@yodel/core'
import { useRef, useState, type KeyboardEvent } from 'react'

/** How editing of a cell ended, and where the focus goes next. */
export type EditEnd =
  | { readonly kind: 'leave' }
  | {
      readonly kind: 'commit'
      readonly text: string
      readonly all: boolean
      readonly down: number
      readonly right: number
    }

/**
 * The field that stands in a cell while it is edited. Enter takes it and goes down, Tab goes right, Esc leaves,
 * Ctrl Enter writes it into every selected cell.
 *
 * @param onEnd - Returns false when the text was refused; the field then stays open.
 */
export function CellEditor({
  field,
  text: before,
  typed,
  onEnd,
}: {
  field: CueField
  text: string
  typed: string | null
  onEnd: (end: EditEnd) => boolean
}) {
  const [text, setText] = useState(typed ?? before)
  const ended = useRef(false)
  const end = (how: EditEnd): void => {
    if (ended.current) return
    ended.current = true
    if (!onEnd(how)) ended.current = false
  }
  const onKeyDown = (event: KeyboardEvent): void => {
    event.stopPropagation()
    const commit = (down: number, right: number, all = false): void => {
      event.preventDefault()
      end({ kind: 'commit', text, all, down, right })
    }
    if (event.key === 'Escape') end({ kind: 'leave' })
    else if (event.key === 'Enter')
      commit(event.ctrlKey || event.metaKey ? 0 : event.shiftKey ? -1 : 1, 0, event.ctrlKey || event.metaKey)
    else if (event.key === 'Tab') commit(0, event.shiftKey ? -1 : 1)
  }
  const shared = {
    'autoFocus': true,
    'aria-label': field.title,
    onKeyDown,
    'onBlur': () => end({ kind: 'commit', text, all: false, down: 0, right: 0 }),
    'className':
      'absolute inset-0 z-10 w-full border-2 border-focus bg-card px-1 text-[12px] text-ink outline-none',
    'data-editor': true,
  }
  if (field.choices) {
    return (
      <select {...shared} value={text} onChange={(event) => setText(event.target.value)}>
        {[...new Set([text, ...field.choices])].map((choice) => (
          <option key={choice} value={choice}>
            {choice || '—'}
          </option>
        ))}
      </select>
    )
  }
  return (
    <input
      {...shared}
      value={text}
      onChange={(event) => setText(event.target.value)}
      // Who wants other words types them at once, without opening the cell; who opens it adds to what is there.
      onFocus={({ target }) => target.setSelectionRange(target.value.length, target.value.length)}
    />
  )
}
