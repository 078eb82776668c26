import { followPointer } from '../ui/followPointer.js'
import {
  samplesPerFrame,
  deleteRecords,
  drawRide,
  FRAME_RATES,
  editRidePoint,
  RIDE_BENDS,
  rideValue,
  type RideMoment,
  type RidePoint,
  type Track,
} from '@yodel/core'
import { memo, useRef, useState, type PointerEvent as ReactPointerEvent } from 'react'
import { useAppDispatch, useAppSelector } from '../document/store.js'
import { EDGES } from '../session/rideEdges.js'
import { edit } from '../document/edit.js'
import { useReel } from '../session/session.js'
import { inkOf } from '../ui/ink.js'
import { topOf, type Stretch } from './geometry.js'

const NEAR = 6
const newId = (): string => crypto.randomUUID()

/**
 * The ride of a track as the path that it takes down the Sheet. A click sets a point, a drag of a point moves it,
 * a drag over the paper draws a stroke, Alt and a click take a point away.
 */
export const RideLane = memo(function RideLane({
  track,
  points,
  stretch,
  left,
  width,
}: {
  track: Track
  points: readonly RidePoint[]
  stretch: Stretch
  left: number
  width: number
}) {
  const dispatch = useAppDispatch()
  const what = useAppSelector((state) => state.view.ride) ?? 'level'
  const { rate } = useReel()
  const perFrame = samplesPerFrame(FRAME_RATES[rate])
  const box = useRef<SVGSVGElement>(null)
  const [stroke, setStroke] = useState<readonly RideMoment[] | null>(null)
  const [low, high] = EDGES[what]
  const xOf = (value: number): number =>
    ((Math.max(low, Math.min(high, value)) - low) / (high - low)) * (width - 8) + 4
  const base = topOf(stretch, stretch.from)
  const yOf = (at: number): number => topOf(stretch, at / perFrame) - base
  const height = topOf(stretch, stretch.to) - base
  const momentAt = (event: { clientX: number; clientY: number }): RideMoment => {
    const rect = box.current?.getBoundingClientRect() ?? { left: 0, top: 0 }
    const value = low + ((event.clientX - rect.left - 4) / (width - 8)) * (high - low)
    const frame = stretch.from + (event.clientY - rect.top) / stretch.zoom
    return [Math.max(0, Math.round(frame * perFrame)), Math.round(value * 100) / 100]
  }
  const rest = what === 'pan' ? track.pan : 0
  const path = (line: readonly RideMoment[]): string =>
    line
      .flatMap(([at, value], index) =>
        [...onTheWay(line, index), [at, value] as const].map(
          ([y, x]) => `${xOf(x).toFixed(1)} ${yOf(y).toFixed(1)}`,
        ),
      )
      .join('L')
      .replace(/^/, 'M')
  const first = points[0]
  const last = points.at(-1)
  const line: RideMoment[] = [
    [0, first?.value ?? rest],
    ...points.map((point): RideMoment => [point.at, point.value, point.bend]),
    [Math.max(stretch.to * perFrame, last?.at ?? 0), last?.value ?? rest],
  ]

  const begin = (down: ReactPointerEvent): boolean => {
    if (down.button !== 0) return false
    down.preventDefault()
    down.stopPropagation()
    return true
  }
  const onPaper = (down: ReactPointerEvent): void => {
    if (!begin(down)) return
    const drawn: RideMoment[] = [momentAt(down)]
    const draw = (moments: readonly RideMoment[]) => (): void => {
      setStroke(null)
      dispatch(edit((doc) => drawRide(doc, { trackId: track.id, what, moments, newId })))
    }
    followPointer(down, {
      onMove: (event) => {
        drawn.push(momentAt(event))
        setStroke([...drawn])
      },
      onDrop: draw(drawn),
      onClick: draw(drawn),
      onCancel: () => setStroke(null),
    })
  }
  const onPoint = (down: ReactPointerEvent, point: RidePoint): void => {
    if (!begin(down)) return
    if (down.altKey) return void dispatch(edit((doc) => deleteRecords(doc, { ids: [point.id] })))
    const others = points.map((one): RideMoment => [one.at, one.value, one.bend])
    const index = points.indexOf(point)
    followPointer(down, {
      onMove: (event) => setStroke(others.with(index, momentAt(event))),
      onDrop: (event) => {
        const [at, value] = momentAt(event)
        setStroke(null)
        dispatch(edit((doc) => editRidePoint(doc, { id: point.id, at, value })))
      },
      onCancel: () => setStroke(null),
    })
  }
  return (
    <svg
      ref={box}
      className={`absolute z-10 cursor-crosshair touch-none bg-paper/60 ${inkOf(track)}`}
      style={{ left, top: base, width, height }}
      width={width}
      height={height}
      data-ride={track.id}
      role="img"
      aria-label={`Ride of the ${what} of ${track.name}`}
      onPointerDown={onPaper}
    >
      <line x1={xOf(0)} x2={xOf(0)} y1={0} y2={height} stroke="var(--line)" />
      <path d={path(line)} fill="none" stroke="var(--cat)" strokeWidth={1.5} />
      {stroke && <path d={path(stroke)} fill="none" stroke="var(--gate)" strokeWidth={1.5} />}
      {points.map((point) => {
        const y = yOf(point.at)
        if (y < -NEAR || y > height + NEAR) return null
        return (
          <rect
            key={point.id}
            data-point={point.id}
            x={xOf(point.value) - 4}
            y={y - 4}
            width={8}
            height={8}
            fill="var(--card)"
            stroke="var(--cat)"
            strokeWidth={1.5}
            className="cursor-move"
            onPointerDown={(down) => onPoint(down, point)}
            onDoubleClick={() =>
              dispatch(
                edit((doc) =>
                  editRidePoint(doc, {
                    id: point.id,
                    bend: RIDE_BENDS[(RIDE_BENDS.indexOf(point.bend) + 1) % RIDE_BENDS.length] ?? 'straight',
                  }),
                ),
              )
            }
          >
            <title>{`${what === 'level' ? `${point.value.toFixed(1)} dB` : panName(point.value)}. Double-click bends the way to the next point.`}</title>
          </rect>
        )
      })}
    </svg>
  )
})

/** Steps in which the way between two points is drawn where it is bent. */
const BENT_STEPS = 12

/** What lies between the point before and this one, where the way is bent. */
function onTheWay(line: readonly RideMoment[], index: number): RideMoment[] {
  const [before, next] = [line[index - 1], line[index]]
  const bend = before?.[2] ?? 'straight'
  if (!before || !next || bend === 'straight') return []
  if (bend === 'hold') return [[next[0], before[1]]]
  const ride = { at: [before[0], next[0]], values: [before[1], next[1]], bends: [bend, bend] }
  return Array.from({ length: BENT_STEPS - 1 }, (_, step): RideMoment => {
    const at = before[0] + ((next[0] - before[0]) * (step + 1)) / BENT_STEPS
    return [at, rideValue(ride, at)]
  })
}

const panName = (value: number): string =>
  Math.abs(value) < 0.005
    ? 'middle'
    : `${Math.round(Math.abs(value) * 100)} % ${value < 0 ? 'left' : 'right'}`
