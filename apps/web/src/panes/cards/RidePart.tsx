import {
  frames,
  clearRide,
  deleteRecords,
  editRidePoint,
  FRAME_RATES,
  formatTimecode,
  frameToSample,
  layRide,
  liftRide,
  nearestFrame,
  readEntry,
  RIDE_BENDS,
  rideOf,
  type RidePoint,
  type Track,
} from '@yodel/core'
import { KeyOf } from '../../actions/useKeys.js'
import { X } from 'lucide-react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { TextField } from '../../ui/TextField.js'
import { copiedRide } from '../../commands/copied.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { edit } from '../../document/edit.js'
import { useReel, useSession } from '../../session/session.js'
import { EDGES } from '../../session/rideEdges.js'

const BENDS = RIDE_BENDS.map((bend) => [bend, { straight: 'straight', s: 'S', hold: 'hold' }[bend]] as const)
/** How far one press raises or lowers a whole ride. */
const LIFT = { level: 1, pan: 0.1 } as const

/** The ride of a track that is drawn: ridden live, copied, laid elsewhere, raised, and its points by number. */
export function RidePart({ track, what }: { track: Track; what: RidePoint['what'] }) {
  const points = useAppSelector((state) => rideOf(state.document.doc, track.id, what))
  const riding = useAppSelector((state) =>
    state.view.riding?.trackId === track.id && state.view.riding.what === what ? state.view.riding : null,
  )
  return (
    <section className="mt-4 border-t border-line pt-2" aria-label={`Ride of the ${what}`} data-ride-part>
      <h3 className="text-[11px] font-bold tracking-wide text-ink-2">Ride of the {what}</h3>
      {riding && <Riding what={what} value={riding.value} writing={riding.writing} />}
      <Acts track={track} what={what} none={points.length === 0} riding={riding !== null} />
      <ol className="mt-1.5 max-h-[200px] overflow-y-auto text-[12px]">
        {points.map((point) => (
          <PointLine key={point.id} point={point} />
        ))}
        {points.length === 0 && <li className="text-ink-2">No points yet: click or draw on the track.</li>}
      </ol>
    </section>
  )
}

/** What the hand does while it rides. */
function Riding(props: { what: RidePoint['what']; value: number; writing: boolean }) {
  const { what, value, writing } = props
  const commands = useCommands()
  const [low, high] = EDGES[what]
  return (
    <div className="mt-1 border-l-[3px] border-gate pl-2 text-[12px]">
      <p className="text-ink-2">Play, then pull or press ← →: written from the first touch until you stop.</p>
      {/* Each pull is written at once: it follows the hand, and does not wait for its release. */}
      <input
        type="range"
        aria-label={`Ride the ${what}`}
        min={low}
        max={high}
        step={what === 'level' ? 0.5 : 0.05}
        value={value}
        onChange={(event) => commands.rides.to(Number(event.target.value))}
        onPointerUp={(event) => event.currentTarget.blur()}
        className="block w-full min-w-0 accent-[var(--cat,var(--ink))]"
      />
      <span className="font-mono">{what === 'level' ? `${value.toFixed(1)} dB` : value.toFixed(2)}</span>{' '}
      {writing && <b className="text-gate">writing</b>}
    </div>
  )
}

/** What can be done with the whole ride. */
function Acts(props: { track: Track; what: RidePoint['what']; none: boolean; riding: boolean }) {
  const { track, what, none, riding } = props
  const dispatch = useAppDispatch()
  const commands = useCommands()
  const { transport } = useSession()
  const { rate } = useReel()
  const lift = (by: number): boolean =>
    dispatch(edit((doc) => liftRide(doc, { trackId: track.id, what, by })))
  const lay = (): void => {
    const copied = copiedRide()
    if (copied)
      dispatch(
        edit((doc) =>
          layRide(doc, {
            trackId: track.id,
            copied,
            at: frameToSample(transport.frame, FRAME_RATES[rate]),
            newId: () => crypto.randomUUID(),
          }),
        ),
      )
  }
  return (
    <div className="mt-1.5 flex flex-wrap gap-1.5">
      <Button
        look={riding ? 'strong' : 'plain'}
        aria-pressed={riding}
        onClick={() => commands.rides.live(track.id, what)}
      >
        {riding ? 'End riding' : 'Ride live'} <KeyOf action="ride-live" onDark={riding} />
      </Button>
      <Button onClick={() => commands.rides.copy(track.id, what)} disabled={none}>
        Copy
      </Button>
      <Button onClick={lay} title="A copied ride begins at the gate">
        Lay at the gate
      </Button>
      <Button
        onClick={() => lift(-LIFT[what])}
        disabled={none}
        aria-label={`Lower the whole ride by ${LIFT[what]}`}
      >
        {what === 'level' ? '−1 dB' : '← left'}
      </Button>
      <Button
        onClick={() => lift(LIFT[what])}
        disabled={none}
        aria-label={`Raise the whole ride by ${LIFT[what]}`}
      >
        {what === 'level' ? '+1 dB' : 'right →'}
      </Button>
      <Button
        onClick={() => dispatch(edit((doc) => clearRide(doc, { trackId: track.id, what })))}
        disabled={none}
      >
        Take away
      </Button>
    </div>
  )
}

/** A point by number: when, how much, how it goes on. */
function PointLine({ point }: { point: RidePoint }) {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const frame = nearestFrame(point.at, rate)
  const set = (fields: { at?: number; value?: number; bend?: RidePoint['bend'] }): boolean =>
    dispatch(edit((doc) => editRidePoint(doc, { id: point.id, ...fields })))
  const setTime = (text: string): boolean => {
    const entry = readEntry(text, frames(reel.firstFrame + frame), rate)
    return entry.ok && set({ at: frameToSample(frames(entry.frame - reel.firstFrame), rate) })
  }
  return (
    <li className="flex items-center gap-1.5 border-t border-hair py-0.5">
      <TextField
        label="When"
        value={formatTimecode(reel.firstFrame + frame, rate)}
        className="font-mono !w-[96px]"
        onCommit={setTime}
      />
      <TextField
        label={point.what === 'level' ? 'Decibels' : 'Left to right'}
        value={point.value.toFixed(point.what === 'level' ? 1 : 2)}
        className="font-mono !w-[52px]"
        onCommit={(text) =>
          text.trim() !== '' && Number.isFinite(Number(text)) && set({ value: Number(text) })
        }
      />
      <Choice label="How it goes on" value={point.bend} options={BENDS} onChange={(bend) => set({ bend })} />
      <button
        type="button"
        className="ml-auto grid size-6 place-items-center text-ink-2 hover:text-ink"
        aria-label="Take the point away"
        onClick={() => dispatch(edit((doc) => deleteRecords(doc, { ids: [point.id] })))}
      >
        <X size={13} />
      </button>
    </li>
  )
}
