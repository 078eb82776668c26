import { readNumber } from './readNumber.js'
import { TextField } from './TextField.js'

type Limits = [number, number]

/** Two numbers between which is picked; typed in either order, held within what is possible. */
export function LimitsField(props: {
  label: string
  value: Limits
  least: number
  most: number
  title?: string
  /** What is said in their place where they say nothing. */
  instead?: string
  onChange: (value: Limits) => void
}) {
  const { label, value, least, most, title, instead, onChange } = props
  const field = (index: 0 | 1) => (
    <TextField
      label={`${label}, ${index === 0 ? 'lowest' : 'highest'}`}
      value={String(value[index])}
      className="!mx-0 w-14! border-line! bg-paper font-mono"
      onCommit={(text) => {
        const typed = readNumber(text)
        if (typed === null) return false
        const next = Math.max(least, Math.min(most, typed))
        const other = value[1 - index] as number
        onChange([Math.min(next, other), Math.max(next, other)])
      }}
    />
  )
  return (
    <>
      <span className="text-ink-2" title={title}>
        {label}
      </span>
      {instead === undefined ? (
        <span className="flex items-center gap-1.5">
          {field(0)} to {field(1)}
        </span>
      ) : (
        <span>{instead}</span>
      )}
    </>
  )
}
