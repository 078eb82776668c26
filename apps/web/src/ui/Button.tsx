import type { ButtonHTMLAttributes, ReactNode } from 'react'

const LOOKS = {
  plain: 'border-line bg-card text-ink hover:border-ink-3',
  strong: 'border-ink bg-ink text-paper font-semibold hover:opacity-90',
  gate: 'border-gate bg-gate text-on-gate font-semibold hover:opacity-90',
  bare: 'border-transparent bg-transparent text-ink-2 hover:text-ink hover:border-line',
} as const

/** A button of the application. `look="gate"` is for the one primary act of a screen. */
export function Button({
  look = 'plain',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: keyof typeof LOOKS }) {
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex min-h-6 items-center justify-center gap-1.5 rounded-[5px] border px-2.5 py-1 text-[12.5px] whitespace-nowrap disabled:opacity-45 ${LOOKS[look]} ${className}`}
    />
  )
}

/** A key as it is written on the keyboard. */
export function Kbd({ children, onDark = false }: { children: ReactNode; onDark?: boolean }) {
  return (
    <kbd
      className={`rounded-[3px] border border-b-2 px-1 py-px font-mono text-[10.5px] leading-none font-semibold ${onDark ? 'border-current/40' : 'border-line bg-paper'}`}
    >
      {children}
    </kbd>
  )
}

/** A small framed fact. */
export function Chip({ children, className = '' }: { children: ReactNode; className?: string }) {
  return (
    <span
      className={`rounded-[3px] border border-line bg-card px-1.5 py-px text-[11px] whitespace-nowrap ${className}`}
    >
      {children}
    </span>
  )
}
