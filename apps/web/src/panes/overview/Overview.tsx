import { followPointer } from '../../ui/followPointer.js'
import { useTables } from '../../document/useTables.js'
import { CATEGORIES, FRAME_RATES, formatTimecode, mergeSpans, overviewBins, silences } from '@yodel/core'
import { max } from 'd3-array'
import { axisLeft } from 'd3-axis'
import { scaleLinear, scaleSqrt } from 'd3-scale'
import { select } from 'd3-selection'
import { useEffect, useMemo, useRef, useState, type PointerEvent } from 'react'
import { api } from '../../api/api.js'
import { useReel, useSession } from '../../session/session.js'

const AXIS = 44
const COLUMN = 9
const WIDTH = AXIS + CATEGORIES.length * COLUMN + 20
const BIN = 6

/** The whole reel at a glance, top to bottom as on the Sheet: cues by category, what is open, what was watched, where nothing sounds. Press to go there. */
export function Overview() {
  const { transport } = useSession()
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const cues = useTables('cue', 'reel')
  const placed = useTables('clip', 'track', 'reel')
  const { data: watched } = api.useWatchedQuery(reel.id)
  const [height, setHeight] = useState(600)
  const svg = useRef<SVGSVGElement>(null)
  const axis = useRef<SVGGElement>(null)
  const gate = useRef<SVGLineElement>(null)
  const y = useMemo(() => scaleLinear([0, reel.length], [6, height - 6]), [reel.length, height])
  const bins = useMemo(() => overviewBins(cues, Math.max(1, Math.floor((height - 12) / BIN))), [cues, height])
  const quiet = useMemo(() => silences(placed, rate.nominal), [placed, rate])
  const most = max(bins, (bin) => max(Object.values(bin.counts))) ?? 1
  const share = scaleSqrt([0, most], [0, 1])

  useEffect(() => {
    const observer = new ResizeObserver(
      ([entry]) => entry && setHeight(Math.max(80, Math.round(entry.contentRect.height))),
    )
    if (svg.current?.parentElement) observer.observe(svg.current.parentElement)
    return () => observer.disconnect()
  }, [])
  useEffect(() => {
    if (!axis.current) return
    const seconds = reel.length / rate.nominal
    const step =
      [5, 10, 15, 30, 60, 120, 300].find((candidate) => (candidate / seconds) * height >= 34) ?? 600
    // Lines fall on round timecodes, which the first frame of the reel need not be.
    const first = step * rate.nominal - (reel.firstFrame % (step * rate.nominal))
    const ticks = Array.from(
      { length: Math.max(0, Math.ceil((reel.length - first) / (step * rate.nominal))) },
      (_, index) => first + index * step * rate.nominal,
    )
    const drawn = axisLeft(y)
      .tickValues(ticks)
      .tickSize(4)
      .tickFormat((frame) => formatTimecode(reel.firstFrame + Number(frame), rate).slice(3, 8))
    select(axis.current)
      .call(drawn)
      .call((group) => group.select('.domain').remove())
  }, [y, reel.length, reel.firstFrame, rate, height])
  useEffect(
    () =>
      transport.subscribe(() => {
        const at = String(y(transport.frame))
        gate.current?.setAttribute('y1', at)
        gate.current?.setAttribute('y2', at)
      }),
    [transport, y],
  )
  const follow = (down: PointerEvent<SVGSVGElement>): void => {
    const { top } = down.currentTarget.getBoundingClientRect()
    const go = ({ clientY }: { clientY: number }): void =>
      transport.goToFrame(Math.round(y.invert(clientY - top)))
    go(down)
    followPointer(down, { threshold: 0, onMove: go })
  }
  const right = AXIS + CATEGORIES.length * COLUMN
  return (
    <div
      className="shrink-0 overflow-hidden border-r border-line bg-paper-2"
      style={{ width: WIDTH }}
      data-overview
    >
      <svg
        ref={svg}
        width={WIDTH}
        height={height}
        className="block cursor-pointer touch-none"
        role="img"
        aria-label="Overview of the reel"
        onPointerDown={follow}
      >
        {quiet.map((gap) => (
          <rect
            key={gap.from}
            x={right + 9}
            y={y(gap.from)}
            width={7}
            height={Math.max(1, y(gap.to) - y(gap.from))}
            fill="none"
            stroke="var(--ink-3)"
            strokeDasharray="1 2"
          >
            <title>Nothing sounds here</title>
          </rect>
        ))}
        {CATEGORIES.map((category, column) => {
          const spans = mergeSpans(
            (watched ?? []).filter((row) => row.category === category).flatMap((row) => row.spans),
          )
          return (
            <g key={category} className={`ink-${category}`}>
              {spans.map((span) => (
                <rect
                  key={span.from}
                  x={AXIS + column * COLUMN}
                  y={y(span.from)}
                  width={COLUMN - 1}
                  height={Math.max(1, y(span.to) - y(span.from))}
                  fill="var(--cat)"
                  opacity={0.16}
                />
              ))}
              {bins.map((bin) => {
                const count = bin.counts[category] ?? 0
                if (count === 0) return null
                return (
                  <rect
                    key={bin.from}
                    x={AXIS + column * COLUMN}
                    y={y(bin.from)}
                    width={Math.max(2.5, share(count) * (COLUMN - 1))}
                    height={BIN - 1.5}
                    fill="var(--cat)"
                  >
                    <title>{`${category}: ${count} cue${count === 1 ? '' : 's'}`}</title>
                  </rect>
                )
              })}
            </g>
          )
        })}
        {bins.map((bin) =>
          (bin.states.open ?? 0) > 0 ? (
            <circle
              key={bin.from}
              cx={right + 3.5}
              cy={y((bin.from + bin.to) / 2)}
              r={2}
              fill="none"
              stroke="var(--gate)"
              data-open
            />
          ) : null,
        )}
        <g
          ref={axis}
          transform={`translate(${AXIS - 3},0)`}
          className="font-mono text-[10.5px] [&_line]:stroke-(--line) [&_text]:fill-(--ink-2)"
        />
        <line ref={gate} x1={0} x2={WIDTH} stroke="var(--gate)" strokeWidth={2} />
      </svg>
    </div>
  )
}
