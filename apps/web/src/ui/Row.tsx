import type { ReactNode } from 'react'

/** A row of a card: what, and how it stands. */
export function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="pt-0.5 text-ink-3">{name}</dt>
      <dd className="min-w-0">{children}</dd>
    </>
  )
}
