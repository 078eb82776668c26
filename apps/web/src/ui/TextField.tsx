import { useEffect, useRef, useState, type KeyboardEvent } from 'react'

/**
 * A field that takes its value when it is left or Enter is pressed; Esc brings back what it was.
 *
 * @param onCommit - Given the new text; returns false to refuse, which brings back the old one.
 */
export function TextField(props: {
  label: string
  value: string
  onCommit: (text: string) => boolean | void
  placeholder?: string
  className?: string
  multiline?: boolean
  autoFocusKey?: string | null
  onDone?: () => void
}) {
  const { value, onCommit, autoFocusKey } = props
  const [text, setText] = useState(value)
  const field = useRef<HTMLInputElement & HTMLTextAreaElement>(null)
  const escaped = useRef(false)
  useEffect(() => setText(value), [value])
  useEffect(() => {
    if (!autoFocusKey) return
    field.current?.focus()
    field.current?.select()
  }, [autoFocusKey])
  const commit = (): void => {
    if (escaped.current) escaped.current = false
    else if (text !== value && onCommit(text) === false) setText(value)
    props.onDone?.()
  }
  const onKeyDown = (event: KeyboardEvent): void => {
    event.stopPropagation()
    if (event.key === 'Enter' && !(props.multiline && event.shiftKey)) field.current?.blur()
    if (event.key === 'Escape') {
      escaped.current = true
      setText(value)
      field.current?.blur()
    }
  }
  const shared = {
    'ref': field,
    'aria-label': props.label,
    'value': text,
    'placeholder': props.placeholder,
    'onChange': (event: { target: { value: string } }) => setText(event.target.value),
    'onBlur': commit,
    onKeyDown,
    'className': `w-full rounded-[3px] border border-transparent bg-transparent px-1 py-0.5 -mx-1 placeholder:text-ink-3 hover:border-line focus:border-focus focus:bg-paper focus:outline-none ${props.className ?? ''}`,
  }
  return props.multiline ? <textarea rows={3} {...shared} /> : <input type="text" {...shared} />
}
