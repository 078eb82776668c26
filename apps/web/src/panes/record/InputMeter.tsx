import { dbFromGain } from '@yodel/core'
import { useEffect, useRef } from 'react'
import { useSession } from '../../session/session.js'
import { writeText } from '../../ui/writeText.js'

const LOW = -60
const part = (db: number): number => Math.max(0, Math.min(1, (db - LOW) / -LOW))

/** How loud the input is: the peak of each channel in dBFS, and overs of this take. Only transforms move. */
export function InputMeter() {
  const { recorder } = useSession()
  const bars = useRef<(HTMLElement | null)[]>([])
  const text = useRef<HTMLSpanElement>(null)
  useEffect(() => {
    const held = [LOW, LOW]
    const draw = (): void => {
      const { peaks = [], overs = 0 } = recorder.capture?.level ?? {}
      for (const side of [0, 1]) {
        const db = Math.max(LOW, dbFromGain(peaks[side] ?? peaks[0] ?? 0))
        held[side] = Math.max(db, (held[side] ?? LOW) - 0.6)
        const bar = bars.current[side]
        if (bar) bar.style.transform = `scaleX(${part(held[side] ?? LOW).toFixed(3)})`
        if (bar) bar.dataset['over'] = String(overs > 0)
      }
      const top = Math.max(...held)
      const level = top <= LOW ? 'silent' : `${top.toFixed(0)} dBFS`
      if (text.current)
        writeText(text.current, overs > 0 ? `${level}, ${overs} ${overs === 1 ? 'over' : 'overs'}` : level)
      request = requestAnimationFrame(draw)
    }
    let request = requestAnimationFrame(draw)
    return () => cancelAnimationFrame(request)
  }, [recorder])
  return (
    <span className="flex items-center gap-2" role="img" aria-label="Level of the input">
      <span className="flex w-[110px] flex-col gap-[2px]">
        {[0, 1].map((side) => (
          <span key={side} className="relative h-[5px] bg-paper-3">
            <i
              ref={(element) => void (bars.current[side] = element)}
              className="absolute inset-0 origin-left bg-(--fol) will-change-transform data-[over=true]:bg-gate"
            />
          </span>
        ))}
      </span>
      <span ref={text} className="w-[92px] font-mono text-[11px] whitespace-nowrap text-ink-2" />
    </span>
  )
}
