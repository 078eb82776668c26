import {
  PartRow,
  placeOfTake,
  SAMPLE_RATE,
  type InputChannel,
  type InputPart,
  type Sound,
  type TakeAbout,
  type TakePlan,
} from '@yodel/core'
import type { Capture } from '../../engine/input/Capture.js'
import type { Engine } from '../../engine/Engine.js'
import type { Transport } from '../Transport.js'
import { TakeSender } from './TakeSender.js'
import type { TakeStore } from './TakeStore.js'

/** What a take is recorded for and with. */
export interface TakeOrder {
  readonly plan: TakePlan
  readonly channel: InputChannel
  readonly about: Omit<TakeAbout, 'start' | 'channels'>
}

/** So far apart (ms) what is wanted of a take and the reel may run before that is told of; what sound servers guess differs by less. */
const SLIPPED = 30

/** A take that has been recorded and is on its way to the server. */
export interface Recorded {
  readonly about: TakeAbout
  /** Whether it ran to its end by itself. */
  readonly whole: boolean
  /** Milliseconds by which the reel and what is wanted of the recording ran apart; 0 where that is less than clocks differ by. */
  readonly slipped: number
  /** Its recording, when all of it is there. */
  readonly sound: Promise<Sound>
}

/** A take that rolls. */
interface Taking {
  readonly order: TakeOrder
  readonly row: PartRow
  /** What came in before it was known where the reel is. */
  readonly early: InputPart[]
  /** The sample of the reel at frame 0 of the audio clock. */
  zero: number
  sender: TakeSender | null
  /** It has been stopped; the last of it is on its way. */
  ending: boolean
}

const channelsOf = ({ channel }: TakeOrder): 1 | 2 => (channel === 'both' ? 2 : 1)

/** Rolls the reel and records a take to it: the reel's own clock says where each sample belongs. */
export class Recorder {
  /** The open device, or null. */
  capture: Capture | null = null
  /** Told when a take rolls for certain: from now on it is known where it lies. */
  onRolling: ((order: TakeOrder) => void) | null = null
  /** Told when a take has ended; null where nothing had come in yet. */
  onRecorded: ((order: TakeOrder, recorded: Recorded | null) => void) | null = null
  /** Told when the device has gone, after the take that it was recording: null where it was recording none. */
  onLost: ((order: TakeOrder | null) => void) | null = null
  /** Told what stands between a take and the server; null when nothing does any more. */
  onTrouble: (message: string | null) => void = () => undefined
  private taking: Taking | null = null
  private isLost = false
  private finishing: Promise<void> = Promise.resolve()
  private readonly unwatch: () => void
  private readonly unsubscribe: () => void

  constructor(
    private readonly engine: Pick<Engine, 'rolling'>,
    private readonly transport: Transport,
    readonly store: TakeStore,
  ) {
    this.unwatch = transport.watchState(() => {
      if (this.taking && !transport.rolling) this.finishing = this.finish()
    })
    this.unsubscribe = transport.subscribe((sample) => {
      const { taking } = this
      if (taking?.sender && transport.rolling && sample >= taking.order.plan.end) transport.stop()
    })
  }

  /** Says whether a take rolls. */
  get rolling(): boolean {
    return this.taking !== null
  }

  /** Uses a device from now on; the one before is closed. */
  use(capture: Capture | null): void {
    this.capture?.close()
    this.capture = capture
    this.isLost = false
    if (!capture) return
    capture.onPart = (part) => this.take(part)
    capture.onLost = () => {
      this.isLost = true
      if (this.taking) return this.transport.stop()
      this.use(null)
      this.onLost?.(null)
    }
  }

  /** Begins a take. @throws Error when no device is open */
  begin(order: TakeOrder): void {
    const { capture, transport } = this
    if (!capture) throw new Error('Choose an input first.')
    transport.stop()
    transport.setSpeed(1)
    transport.setLoop(null)
    transport.goToSample(order.plan.roll)
    this.taking = { order, row: new PartRow(), early: [], zero: 0, sender: null, ending: false }
    capture.record(order.channel)
    transport.play()
  }

  /** Ends the take that rolls; resolves when the last of it has come in. */
  async stop(): Promise<void> {
    this.transport.stop()
    await this.finishing
  }

  /** Ends it for good; a take that rolls ends, too. */
  dispose(): void {
    this.unwatch()
    this.unsubscribe()
    const { capture } = this
    void this.finish().then(() => capture?.close())
    this.capture = null
  }

  private take(part: InputPart): void {
    const { taking, engine } = this
    if (!taking) return
    const { rolling } = engine
    taking.row.add(part.frame, part.samples.length / channelsOf(taking.order))
    if (taking.sender) {
      taking.sender.add(part.samples)
      // Somebody went elsewhere: one take is not of two places.
      if (rolling && rolling.at - rolling.frame !== taking.zero) this.transport.stop()
      return
    }
    taking.early.push(part)
    const first = taking.early[0]
    if (!rolling || !first) return
    const { order } = taking
    const { roundTrip } = order.about
    const about: TakeAbout = {
      ...order.about,
      channels: channelsOf(order),
      start: placeOfTake({ first: first.frame, rolling, roundTrip }),
    }
    taking.zero = rolling.at - rolling.frame
    taking.sender = new TakeSender(about, this.store, this.onTrouble)
    void this.store.begin(about).catch(() => undefined)
    for (const early of taking.early) taking.sender.add(early.samples)
    taking.early.length = 0
    this.onRolling?.(order)
  }

  private async finish(): Promise<void> {
    const { taking, capture, isLost } = this
    if (!taking || taking.ending) return
    taking.ending = true
    const { plan } = taking.order
    const whole = this.transport.sample >= plan.end - 4800
    const overs = capture?.level.overs ?? 0
    await capture?.stop()
    this.taking = null
    if (isLost) this.use(null)
    const { order, sender, row } = taking
    const start = sender?.about.start ?? 0
    const { later, apart } = row.lies(plan.in - start, plan.out - start)
    const ms = Math.round((1000 * apart) / SAMPLE_RATE)
    const slipped = ms > SLIPPED ? ms : 0
    const notes = [
      isLost ? 'The device went away' : '',
      overs > 0 ? `${overs} ${overs === 1 ? 'over' : 'overs'}` : '',
      slipped > 0 ? `Ran ${slipped} ms apart from the reel` : '',
    ].filter(Boolean)
    const sound = sender?.end(notes.join('; '), later)
    const about = sender && { ...sender.about, start: start + later }
    this.onRecorded?.(order, about && sound ? { about, whole, slipped, sound } : null)
    if (isLost) this.onLost?.(sender && order)
  }
}
