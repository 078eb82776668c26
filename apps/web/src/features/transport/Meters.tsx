import { dbFromGain } from '@yodel/core'
import { useEffect, useRef } from 'react'
import { useSession } from '../reel/session.js'

const LOW = -50
const WIDTH = 208
const place = (db: number): number => Math.max(0, Math.min(1, (db - LOW) / -LOW)) * WIDTH

/** Peak levels of what sounds, left and right, in dBFS, with the highest held for a while. */
export function Meters() {
  const { engine } = useSession()
  const canvas = useRef<HTMLCanvasElement>(null)
  const text = useRef<HTMLSpanElement>(null)
  useEffect(() => {
    const held = [LOW, LOW]
    const draw = (): void => {
      const context = canvas.current?.getContext('2d')
      if (context && canvas.current) {
        const style = getComputedStyle(canvas.current)
        context.clearRect(0, 0, WIDTH, 14)
        ;[engine.meter.left, engine.meter.right].forEach((level, side) => {
          const db = Math.max(LOW, dbFromGain(level))
          held[side] = Math.max(db, (held[side] ?? LOW) - 0.25)
          context.fillStyle = style.getPropertyValue('--paper-3')
          context.fillRect(0, side * 8, WIDTH, 6)
          context.fillStyle = style.getPropertyValue(db > -0.1 ? '--gate' : '--fol')
          context.fillRect(0, side * 8, place(db), 6)
          context.fillStyle = style.getPropertyValue('--ink')
          context.fillRect(place(held[side] ?? LOW) - 1, side * 8, 2, 6)
        })
        const top = Math.max(...held)
        if (text.current) text.current.textContent = top <= LOW ? 'silent' : `${top.toFixed(1)} dBFS`
      }
      request = requestAnimationFrame(draw)
    }
    let request = requestAnimationFrame(draw)
    return () => cancelAnimationFrame(request)
  }, [engine])
  return (
    <div>
      <canvas ref={canvas} width={WIDTH} height={14} role="img" aria-label="Levels" />
      <div className="flex justify-between font-mono text-[10.5px] text-ink-3" style={{ width: WIDTH }}>
        <span>-40</span>
        <span ref={text} />
        <span>0</span>
      </div>
    </div>
  )
}
