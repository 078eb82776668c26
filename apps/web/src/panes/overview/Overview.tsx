import { CATEGORIES, FRAME_RATES, mergeSpans, overviewBins, silences, type Category } from '@yodel/core'
import { max } from 'd3-array'
import { scaleLinear, scaleSqrt, type ScaleLinear } from 'd3-scale'
import { useEffect, useMemo, useRef, useState, type PointerEvent } from 'react'
import { api } from '../../api/api.js'
import { useTables } from '../../document/useTables.js'
import { useReel, useSession } from '../../session/session.js'
import { followPointer } from '../../ui/followPointer.js'
import { OverviewAxis } from './OverviewAxis.js'

const AXIS = 44
const COLUMN = 9
const RIGHT = AXIS + CATEGORIES.length * COLUMN
const WIDTH = RIGHT + 20
const BIN = 6

type Bins = ReturnType<typeof overviewBins>
type Y = ScaleLinear<number, number>

/** The whole reel at a glance, top to bottom as on the Sheet: cues by category, what is open, what was watched, where nothing sounds. Press to go there. */
export function Overview() {
  const { transport } = useSession()
  const reel = useReel()
  const cues = useTables('cue', 'reel')
  const [height, setHeight] = useState(600)
  const svg = useRef<SVGSVGElement>(null)
  const y = useMemo(() => scaleLinear([0, reel.length], [6, height - 6]), [reel.length, height])
  const bins = useMemo(() => overviewBins(cues, Math.max(1, Math.floor((height - 12) / BIN))), [cues, height])

  useEffect(() => {
    const observer = new ResizeObserver(
      ([entry]) => entry && setHeight(Math.max(80, Math.round(entry.contentRect.height))),
    )
    if (svg.current?.parentElement) observer.observe(svg.current.parentElement)
    return () => observer.disconnect()
  }, [])
  const follow = (down: PointerEvent<SVGSVGElement>): void => {
    const { top } = down.currentTarget.getBoundingClientRect()
    const go = ({ clientY }: { clientY: number }): void =>
      transport.goToFrame(Math.round(y.invert(clientY - top)))
    go(down)
    followPointer(down, { threshold: 0, onMove: go })
  }
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
        <Quiet y={y} />
        <Categories bins={bins} y={y} />
        {bins.map((bin) =>
          (bin.states.open ?? 0) > 0 ? (
            <circle
              key={bin.from}
              cx={RIGHT + 3.5}
              cy={y((bin.from + bin.to) / 2)}
              r={2}
              fill="none"
              stroke="var(--gate)"
              data-open
            />
          ) : null,
        )}
        <OverviewAxis y={y} height={height} left={AXIS - 3} />
        <GateLine y={y} />
      </svg>
    </div>
  )
}

/** Where nothing sounds. */
function Quiet({ y }: { y: Y }) {
  const placed = useTables('clip', 'track', 'reel')
  const { nominal } = FRAME_RATES[useReel().rate]
  const quiet = useMemo(() => silences(placed, nominal), [placed, nominal])
  return quiet.map((gap) => (
    <rect
      key={gap.from}
      x={RIGHT + 9}
      y={y(gap.from)}
      width={7}
      height={Math.max(1, y(gap.to) - y(gap.from))}
      fill="none"
      stroke="var(--ink-3)"
      strokeDasharray="1 2"
    >
      <title>Nothing sounds here</title>
    </rect>
  ))
}

/** A column a category: how many cues, over what was watched for it. */
function Categories({ bins, y }: { bins: Bins; y: Y }) {
  const { data: watched = [] } = api.useWatchedQuery(useReel().id)
  const most = max(bins, (bin) => max(Object.values(bin.counts))) ?? 1
  const share = scaleSqrt([0, most], [0, COLUMN - 1])
  const spansOf = (category: Category) =>
    mergeSpans(watched.filter((row) => row.category === category).flatMap((row) => row.spans))
  return CATEGORIES.map((category, column) => (
    <g key={category} className={`ink-${category}`} fill="var(--cat)">
      {spansOf(category).map((span) => (
        <rect
          key={span.from}
          x={AXIS + column * COLUMN}
          y={y(span.from)}
          width={COLUMN - 1}
          height={Math.max(1, y(span.to) - y(span.from))}
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
            width={Math.max(2.5, share(count))}
            height={BIN - 1.5}
          >
            <title>{`${category}: ${count} cue${count === 1 ? '' : 's'}`}</title>
          </rect>
        )
      })}
    </g>
  ))
}

/** Where the gate stands; moved without drawing anew. */
function GateLine({ y }: { y: Y }) {
  const { transport } = useSession()
  const line = useRef<SVGLineElement>(null)
  useEffect(
    () =>
      transport.subscribe(() => {
        const at = String(y(transport.frame))
        line.current?.setAttribute('y1', at)
        line.current?.setAttribute('y2', at)
      }),
    [transport, y],
  )
  return <line ref={line} x1={0} x2={WIDTH} stroke="var(--gate)" strokeWidth={2} />
}
