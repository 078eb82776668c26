import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { useReel } from '../../session/session.js'
import { Button } from '../../ui/Button.js'

/** The left part of a preview: what the file is, how it is read, and the act. */
export function PreviewPart(props: {
  name: string
  /** How much is in it. */
  holds: string
  /** Rows of settings. */
  head: ReactNode
  /** What is matched by hand, below a heading. */
  title: string
  children: ReactNode
  act: string
  onAct: (() => void) | null
  onOther: () => void
  /** The view that one leaves for, and what is said below the buttons. */
  leave: 'list' | 'sheet'
  remark: string
}) {
  const reel = useReel()
  return (
    <section
      className="flex min-h-0 flex-col border-r border-line bg-card py-4"
      aria-label="What the file says"
    >
      <div className="min-h-0 flex-1 overflow-y-auto px-4">
        <h1 className="truncate text-[16px] font-bold" title={props.name}>
          {props.name}
        </h1>
        <p className="text-ink-2">{props.holds}</p>
        <dl className="mt-3 grid grid-cols-[96px_1fr] items-center gap-x-2 gap-y-1.5 text-[12px]">
          {props.head}
        </dl>
        <h2 className="mt-4 font-bold">{props.title}</h2>
        {props.children}
      </div>
      <div className="mx-4 mt-3 border-t border-line pt-3">
        <div className="flex flex-wrap gap-2">
          <Button look="gate" disabled={!props.onAct} onClick={props.onAct ?? undefined}>
            {props.act}
          </Button>
          <Button onClick={props.onOther}>Another file</Button>
          <Link
            to={`/reels/${reel.id}${props.leave === 'list' ? '/list' : ''}`}
            className="self-center text-ink-2 underline"
          >
            Cancel
          </Link>
        </div>
        {props.remark !== '' && <p className="mt-2 text-[12px] text-ink-2">{props.remark}</p>}
      </div>
    </section>
  )
}
