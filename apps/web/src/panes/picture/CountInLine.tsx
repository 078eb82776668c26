import { countedIn } from '@yodel/core'
import { useEffect, useRef } from 'react'
import { useAppSelector } from '../../document/store.js'
import { useSession } from '../../session/session.js'

/** While a take is counted in, a line that runs down the picture and reaches its lower edge at the in. */
export function CountInLine() {
  const plan = useAppSelector((state) => state.recording.taking?.plan ?? null)
  const { transport } = useSession()
  const line = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (!plan) return
    return transport.subscribe((sample) => {
      const part = transport.rolling ? countedIn(plan, sample) : null
      if (!line.current) return
      line.current.style.visibility = part === null ? 'hidden' : 'visible'
      line.current.style.transform = `translateY(${((part ?? 0) * 100).toFixed(2)}%)`
    })
  }, [plan, transport])
  if (!plan) return null
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden" data-count-in>
      <div ref={line} className="invisible h-full will-change-transform">
        <div className="h-[3px] bg-gate shadow-[0_0_0_1px_#0b1012]" />
      </div>
    </div>
  )
}
