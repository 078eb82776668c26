import {
  deleteRecords,
  drawRide,
  editRidePoint,
  FRAME_RATES,
  RIDE_BENDS,
  samplesPerFrame,
  type RideMoment,
  type RidePoint,
  type Track,
} from '@yodel/core'
import { memo, useMemo, useRef, useState, type PointerEvent as ReactPointerEvent } from 'react'
import { edit } from '../document/edit.js'
import { useAppDispatch, useAppSelector } from '../document/store.js'
import { useReel } from '../session/session.js'
import { followPointer } from '../ui/followPointer.js'
import { inkOf } from '../ui/ink.js'
import type { Stretch } from './geometry.js'
import { rideLine, rideScale } from './rideScale.js'

/** Pixels beyond the edge at which a point is still drawn. */
const NEAR = 6

/**
 * The ride of a track as the path that it takes down the Sheet. A click sets a point, a drag of a point moves it,
 * a drag over the paper draws a stroke, Alt and a click take a point away.
 */
export const RideLane = memo(function RideLane(props: {
  track: Track
  points: readonly RidePoint[]
  stretch: Stretch
  left: number
  width: number
}) {
  const { track, points, stretch, left, width } = props
  const what = useAppSelector((state) => state.view.ride) ?? 'level'
  const rate = FRAME_RATES[useReel().rate]
  const box = useRef<SVGSVGElement>(null)
  const scale = useMemo(() => rideScale(what, stretch, width, rate), [what, stretch, width, rate])
  const { stroke, onPaper, onPoint, onBend } = useRideHands(track, points, (event) => {
    const edge = box.current?.getBoundingClientRect() ?? { left: 0, top: 0 }
    return scale.momentAt(event.clientX - edge.left, event.clientY - edge.top)
  })
  const rest = what === 'pan' ? track.pan : 0
  const line = rideLine(points, rest, stretch.to * samplesPerFrame(rate))
  return (
    <svg
      ref={box}
      className={`absolute z-10 cursor-crosshair touch-none bg-paper/60 ${inkOf(track)}`}
      style={{ left, top: scale.top, width, height: scale.height }}
      width={width}
      height={scale.height}
      data-ride={track.id}
      role="img"
      aria-label={`Ride of the ${what} of ${track.name}`}
      onPointerDown={onPaper}
    >
      <line x1={scale.x(0)} x2={scale.x(0)} y1={0} y2={scale.height} stroke="var(--line)" />
      <path d={scale.path(line)} fill="none" stroke="var(--cat)" strokeWidth={1.5} />
      {stroke && <path d={scale.path(stroke)} fill="none" stroke="var(--gate)" strokeWidth={1.5} />}
      {points.map((point) => {
        const y = scale.y(point.at)
        if (y < -NEAR || y > scale.height + NEAR) return null
        return (
          <rect
            key={point.id}
            data-point={point.id}
            x={scale.x(point.value) - 4}
            y={y - 4}
            width={8}
            height={8}
            fill="var(--card)"
            stroke="var(--cat)"
            strokeWidth={1.5}
            className="cursor-move"
            onPointerDown={(down) => onPoint(down, point)}
            onDoubleClick={() => onBend(point)}
          >
            <title>{`${what === 'level' ? `${point.value.toFixed(1)} dB` : panName(point.value)}. Double-click bends the way to the next point.`}</title>
          </rect>
        )
      })}
    </svg>
  )
})

/** Drawing a ride and moving its points; `stroke` is what is being drawn. */
function useRideHands(
  track: Track,
  points: readonly RidePoint[],
  momentAt: (event: { clientX: number; clientY: number }) => RideMoment,
) {
  const dispatch = useAppDispatch()
  const what = useAppSelector((state) => state.view.ride) ?? 'level'
  const [stroke, setStroke] = useState<readonly RideMoment[] | null>(null)
  const begin = (down: ReactPointerEvent): boolean => {
    if (down.button !== 0) return false
    down.preventDefault()
    down.stopPropagation()
    return true
  }
  const onPaper = (down: ReactPointerEvent): void => {
    if (!begin(down)) return
    const moments: RideMoment[] = [momentAt(down)]
    const draw = (): void => {
      setStroke(null)
      const newId = (): string => crypto.randomUUID()
      dispatch(edit((doc) => drawRide(doc, { trackId: track.id, what, moments, newId })))
    }
    followPointer(down, {
      onMove: (event) => {
        moments.push(momentAt(event))
        setStroke([...moments])
      },
      onDrop: draw,
      onClick: draw,
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
  const onBend = ({ id, bend }: RidePoint): void => {
    const next = RIDE_BENDS[(RIDE_BENDS.indexOf(bend) + 1) % RIDE_BENDS.length] ?? 'straight'
    dispatch(edit((doc) => editRidePoint(doc, { id, bend: next })))
  }
  return { stroke, onPaper, onPoint, onBend }
}

const panName = (value: number): string =>
  Math.abs(value) < 0.005
    ? 'middle'
    : `${Math.round(Math.abs(value) * 100)} % ${value < 0 ? 'left' : 'right'}`
