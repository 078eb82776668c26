import { X } from 'lucide-react'
import { useEffect } from 'react'

/** Something to be read at the foot of the page. */
export interface Notice {
  readonly id: number
  readonly tone: 'plain' | 'problem'
  readonly text: string
}

const STAY_MS = 7000

/** Refusals and troubles, at the foot of the page; each goes by itself after a while. */
export function Notices({
  notices,
  onClose,
}: {
  notices: readonly Notice[]
  onClose: (notice: Notice) => void
}) {
  return (
    <div
      className="pointer-events-none fixed bottom-4 left-1/2 z-50 flex w-[460px] max-w-[90vw] -translate-x-1/2 flex-col gap-2"
      role="status"
      aria-live="polite"
    >
      {notices.map((notice) => (
        <Line key={notice.id} notice={notice} onClose={onClose} />
      ))}
    </div>
  )
}

function Line({ notice, onClose }: { notice: Notice; onClose: (notice: Notice) => void }) {
  useEffect(() => {
    const timer = setTimeout(() => onClose(notice), STAY_MS)
    return () => clearTimeout(timer)
  }, [notice, onClose])
  return (
    <div
      className={`pointer-events-auto flex items-start gap-2 rounded-[5px] border bg-card px-3 py-2 shadow-sm ${notice.tone === 'problem' ? 'border-gate' : 'border-line'}`}
    >
      <span className="min-w-0 flex-1">{notice.text}</span>
      <button
        type="button"
        aria-label="Close"
        className="grid size-6 place-items-center text-ink-3"
        onClick={() => onClose(notice)}
      >
        <X size={14} />
      </button>
    </div>
  )
}
