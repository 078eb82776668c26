/**
 * One of a few values.
 *
 * @param options - Pairs of the value and how it is called.
 */
export function Choice<T extends string>(props: {
  label: string
  value: T
  options: readonly (readonly [T, string])[]
  onChange: (value: T) => void
  className?: string
  title?: string
  /** The keyboard goes back to the page once something is chosen: Space is to play again. */
  givesBack?: boolean
}) {
  return (
    <select
      aria-label={props.label}
      title={props.title}
      value={props.value}
      onChange={(event) => {
        props.onChange(event.target.value as T)
        if (props.givesBack) event.target.blur()
      }}
      className={`min-h-6 text-ellipsis rounded-[3px] border border-line bg-card py-0.5 text-[12px] font-normal text-ink ${props.className ?? ''}`}
    >
      {props.options.map(([value, name]) => (
        <option key={value} value={value}>
          {name}
        </option>
      ))}
    </select>
  )
}
