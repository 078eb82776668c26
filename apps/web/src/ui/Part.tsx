import type { ReactNode } from 'react'

/** A part of a page under a title of its own. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h1 className="text-[16px] font-bold">{title}</h1>
      <div className="mt-2 border-t border-line pt-2">{children}</div>
    </section>
  )
}
