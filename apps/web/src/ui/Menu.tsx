import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import type { ReactNode } from 'react'

/** A button that opens a small panel. */
export function Menu({
  name,
  label,
  right = false,
  small = false,
  alarm = false,
  children,
}: {
  name: string
  /** What it is called where its name is a sign. */
  label?: string
  right?: boolean
  small?: boolean
  /** It says something that ought not to be overlooked. */
  alarm?: boolean
  children: ReactNode
}) {
  return (
    <Popover className="relative">
      <PopoverButton
        {...(label === undefined ? {} : { 'aria-label': label, 'title': label })}
        className={`inline-flex min-h-6 items-center border whitespace-nowrap ${alarm ? 'border-gate bg-card font-semibold text-gate!' : 'border-line bg-card hover:border-ink-3'} ${small ? 'rounded-[3px] px-1.5 text-[11px] text-ink-2' : 'rounded-[5px] px-2.5 py-1 text-[12.5px]'}`}
      >
        {name}
      </PopoverButton>
      <PopoverPanel
        className={`absolute top-full z-40 mt-1 flex w-max flex-col rounded-[5px] border border-line bg-card p-2 shadow-sm ${right ? 'right-0' : 'left-0'}`}
      >
        {children}
      </PopoverPanel>
    </Popover>
  )
}

/** Something in a menu that is on or off. */
export function Tick({ on, onChange, children }: { on: boolean; onChange: () => void; children: ReactNode }) {
  return (
    <label className="flex min-h-6 items-center gap-1.5 whitespace-nowrap">
      <input type="checkbox" checked={on} onChange={onChange} />
      {children}
    </label>
  )
}
