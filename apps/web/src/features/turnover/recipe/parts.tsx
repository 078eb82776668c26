import type { ReactNode } from 'react'

/** A group of choices under a heading. */
export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="mt-4 min-w-0">
      <legend className="font-semibold text-ink-2">{title}</legend>
      <div className="mt-1 flex flex-col gap-0.5">{children}</div>
    </fieldset>
  )
}

/** Something that goes out or does not; what that means stands at the right. */
export function Tick(props: {
  label: string
  told?: string
  checked: boolean
  disabled?: boolean
  onChange: (checked: boolean) => void
}) {
  return (
    <label
      className={`flex min-h-6 items-center gap-2 rounded-[3px] hover:bg-paper-2 ${props.disabled ? 'opacity-50' : ''}`}
    >
      <input
        type="checkbox"
        className="size-3.5"
        checked={props.checked}
        disabled={props.disabled}
        onChange={(event) => props.onChange(event.target.checked)}
      />
      <span className="min-w-0 flex-1 truncate">{props.label}</span>
      <span className="text-[12px] text-ink-2">{props.told}</span>
    </label>
  )
}
