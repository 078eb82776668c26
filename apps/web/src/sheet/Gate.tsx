import { FRAME_RATES, formatTimecode } from '@yodel/core'
import { useEffect, useRef } from 'react'
import { useReel, useSession } from '../session/session.js'
import { writeText } from '../ui/writeText.js'

/** The fixed line at which picture and sound are now. */
export function Gate({ y }: { y: number }) {
  const { transport } = useSession()
  const reel = useReel()
  const text = useRef<HTMLSpanElement>(null)
  useEffect(
    () =>
      transport.subscribe(() => {
        writeText(
          text.current,
          formatTimecode(reel.firstFrame + transport.frame, FRAME_RATES[reel.rate]).slice(6),
        )
      }),
    [transport, reel.firstFrame, reel.rate],
  )
  return (
    <div
      className="pointer-events-none absolute inset-x-0 z-30 border-t-2 border-gate"
      style={{ top: y - 1 }}
    >
      {/* Covers the time of the ruler's line that stands under the flag, which is the same. */}
      <span className="absolute -top-[17px] left-0 h-[26px] w-[44px] bg-paper" />
      <span
        ref={text}
        className="absolute -top-[9px] left-0 h-[17px] w-[52px] bg-gate pl-1.5 font-mono text-[11px] leading-[17px] font-semibold text-on-gate [clip-path:polygon(0_0,88%_0,100%_50%,88%_100%,0_100%)]"
      />
    </div>
  )
}

/** What a drag is doing, or why it can't be done, beside the gate. */
export function DragLabel({ text, refused, y }: { text: string; refused: boolean; y: number }) {
  return (
    <div
      className={`pointer-events-none absolute right-3 z-40 max-w-[320px] rounded-[3px] border bg-card px-2 py-1 text-[12px] ${refused ? 'border-gate text-gate' : 'border-line'}`}
      style={{ top: y + 8 }}
      data-drag
    >
      {text}
    </div>
  )
}
