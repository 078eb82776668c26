import { dbFromGain } from '@yodel/core'
import { useEffect, useRef } from 'react'
import { writeText } from '../../ui/writeText.js'
import { useSession } from '../../session/session.js'

const LOW = -50
const WIDTH = 208
const TEXT_MS = 120
const part = (db: number): number => Math.max(0, Math.min(1, (db - LOW) / -LOW))

/** Peak levels of what sounds, left and right, in dBFS, with the highest held for a while. Only transforms move: nothing is painted anew. */
export function Meters() {
  const { engine } = useSession()
  const bars = useRef<(HTMLElement | null)[]>([])
  const holds = useRef<(HTMLElement | null)[]>([])
  const text = useRef<HTMLSpanElement>(null)
  useEffect(() => {
    const held = [LOW, LOW]
    let said = 0
    const draw = (now: number): void => {
      ;[engine.meter.left, engine.meter.right].forEach((level, side) => {
        const db = Math.max(LOW, dbFromGain(level))
        held[side] = Math.max(db, (held[side] ?? LOW) - 0.25)
        const [bar, hold] = [bars.current[side], holds.current[side]]
        if (bar) bar.style.transform = `scaleX(${part(db).toFixed(3)})`
        if (bar) bar.dataset['over'] = String(db > -0.1)
        if (hold) hold.style.transform = `translateX(${(part(held[side] ?? LOW) * WIDTH - 1).toFixed(1)}px)`
      })
      if (now - said > TEXT_MS && text.current) {
        said = now
        const top = Math.max(...held)
        const words = top <= LOW ? 'silent' : `${top.toFixed(1)} dBFS`
        writeText(text.current, words)
      }
      request = requestAnimationFrame(draw)
    }
    let request = requestAnimationFrame(draw)
    return () => cancelAnimationFrame(request)
  }, [engine])
  return (
    <div>
      <div role="img" aria-label="Levels" className="flex flex-col gap-[2px]" style={{ width: WIDTH }}>
        {[0, 1].map((side) => (
          <div key={side} className="relative h-[6px] bg-paper-3">
            <i
              ref={(element) => void (bars.current[side] = element)}
              className="absolute inset-0 origin-left bg-(--fol) will-change-transform data-[over=true]:bg-gate"
            />
            <i
              ref={(element) => void (holds.current[side] = element)}
              className="absolute inset-y-0 left-0 w-[2px] bg-ink will-change-transform"
            />
          </div>
        ))}
      </div>
      <div className="flex justify-between font-mono text-[10.5px] text-ink-3" style={{ width: WIDTH }}>
        <span>-50</span>
        <span ref={text} />
        <span>0</span>
      </div>
    </div>
  )
}
