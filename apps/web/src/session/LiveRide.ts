import { drawRide, rideOf, rideValue, samplesIn, type RideMoment, type RidePoint } from '@yodel/core'
import type { AppDispatch, AppStore } from '../document/store.js'
import { edit } from '../document/edit.js'
import { viewActions } from '../document/viewSlice.js'
import type { Transport } from './Transport.js'
import { EDGES } from './rideEdges.js'

type What = RidePoint['what']

/** The audio clock is read a little early or late on a busy machine; only what goes back further is a jump. */
const CLOCK_SLIP = samplesIn(0.25)

/**
 * Rides a track by hand while the reel rolls: from the first touch until it stops, what the hand says is heard at once
 * and becomes one ride, thinned, as one edit. Stopped, a touch only sets where the hand stands.
 */
export class LiveRide {
  private written: RideMoment[] = []
  private unsubscribe: (() => void) | null = null

  constructor(
    private readonly dispatch: AppDispatch,
    private readonly store: AppStore,
    private readonly transport: Transport,
  ) {}

  /** Begins to ride a track, at the value that its ride has at the gate; the same again ends it. */
  toggle(trackId: string, what: What): void {
    const { riding } = this.store.getState().view
    this.end()
    if (riding?.trackId === trackId && riding.what === what) return
    const { doc } = this.store.getState().document
    const points = rideOf(doc, trackId, what)
    const ride = {
      at: points.map((point) => point.at),
      values: points.map((point) => point.value),
      bends: points.map((point) => point.bend),
    }
    const rest = what === 'pan' ? (doc.track.get(trackId)?.pan ?? 0) : 0
    this.dispatch(viewActions.setRide(what))
    this.dispatch(
      viewActions.setRiding({
        trackId,
        what,
        value: points.length > 0 ? rideValue(ride, this.transport.sample) : rest,
        writing: false,
      }),
    )
    this.unsubscribe = this.transport.subscribe((sample) => this.follow(sample))
  }

  /** The hand moves to a value. */
  to(wanted: number): void {
    const { riding } = this.store.getState().view
    if (!riding) return
    const [low, high] = EDGES[riding.what]
    const value = Math.round(Math.max(low, Math.min(high, wanted)) * 100) / 100
    this.dispatch(
      viewActions.setRiding({ ...riding, value, writing: riding.writing || this.transport.rolling }),
    )
    if (this.transport.rolling) this.write(this.transport.sample, value)
  }

  /** The hand moves by a step: a decibel, or a twentieth of the way. @returns Whether a track is being ridden. */
  by(steps: number): boolean {
    const { riding } = this.store.getState().view
    if (riding) this.to(riding.value + steps * (riding.what === 'level' ? 1 : 0.05))
    return riding !== null
  }

  /** Ends riding; what was written is kept. */
  end(): void {
    this.commit()
    this.unsubscribe?.()
    this.unsubscribe = null
    if (this.store.getState().view.riding) this.dispatch(viewActions.setRiding(null))
  }

  /** While the hand stays where it is, that is written too. */
  private follow(sample: number): void {
    const { riding } = this.store.getState().view
    if (!riding?.writing) return
    const last = this.written.at(-1)
    // A stop ends a pass; so does a jump or a loop that goes round.
    if (!this.transport.rolling || (last && sample < last[0] - CLOCK_SLIP)) return this.commit()
    this.write(sample, riding.value)
  }

  /** Time never goes back within a stroke: what comes a little early stands at the moment before. */
  private write(sample: number, value: number): void {
    const last = this.written.at(-1)
    if (last && sample <= last[0]) this.written.splice(-1, 1, [last[0], value])
    else this.written.push([sample, value])
  }

  private commit(): void {
    const { riding } = this.store.getState().view
    const moments = this.written
    this.written = []
    if (!riding?.writing) return
    this.dispatch(viewActions.setRiding({ ...riding, writing: false }))
    const { trackId, what } = riding
    if (moments.length > 1)
      this.dispatch(
        edit((doc) => drawRide(doc, { trackId, what, moments, newId: () => crypto.randomUUID() })),
      )
  }
}
