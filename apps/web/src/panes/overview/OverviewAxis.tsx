import { FRAME_RATES, formatTimecode } from '@yodel/core'
import { axisLeft } from 'd3-axis'
import type { ScaleLinear } from 'd3-scale'
import { select } from 'd3-selection'
import { useEffect, useRef } from 'react'
import { useReel } from '../../session/session.js'

/** Seconds between two lines of the axis. */
const STEPS = [5, 10, 15, 30, 60, 120, 300, 600]
/** Pixels that a line needs at least. */
const ROOM = 34

/** The minutes and seconds beside the overview. */
export function OverviewAxis({
  y,
  height,
  left,
}: {
  y: ScaleLinear<number, number>
  height: number
  left: number
}) {
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const axis = useRef<SVGGElement>(null)
  useEffect(() => {
    if (!axis.current) return
    const seconds = reel.length / rate.nominal
    const step = (STEPS.find((one) => (one / seconds) * height >= ROOM) ?? 600) * rate.nominal
    // Lines fall on round timecodes, which the first frame of the reel need not be.
    const first = step - (reel.firstFrame % step)
    const count = Math.max(0, Math.ceil((reel.length - first) / step))
    const drawn = axisLeft(y)
      .tickValues(Array.from({ length: count }, (_, index) => first + index * step))
      .tickSize(4)
      .tickFormat((frame) => formatTimecode(reel.firstFrame + Number(frame), rate).slice(3, 8))
    select(axis.current)
      .call(drawn)
      .call((group) => group.select('.domain').remove())
  }, [y, reel.length, reel.firstFrame, rate, height])
  return (
    <g
      ref={axis}
      transform={`translate(${left},0)`}
      className="font-mono text-[10.5px] [&_line]:stroke-(--line) [&_text]:fill-(--ink-2)"
    />
  )
}
