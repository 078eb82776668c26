import { SAMPLE_RATE, EMPTY_PLAN, type RenderPlan } from '@yodel/core'
import type { FromFeeder, FromWorklet, Loop, MixLevels, ToFeeder, ToWorklet } from './messages.js'
import workletUrl from './mixer.worklet.ts?worker&url'
import { planNews } from './planNews.js'

/** Levels of the last moment, linear, and how the playing goes. */
export interface Meter {
  readonly left: number
  readonly right: number
  /** Blocks for which a sound was not there in time, since playing started. */
  readonly misses: number
}

let shared: Promise<AudioContext> | null = null

/** The one audio context of this page, with the mixer loaded; at 48 kHz. @throws Error where the browser has none for this page */
export async function audioContext(): Promise<AudioContext> {
  shared ??= (async () => {
    if (typeof AudioWorkletNode === 'undefined' || !window.isSecureContext) {
      throw new Error(
        'This browser gives sound only to pages from this computer or over https. Open Yodel at 127.0.0.1, or put it behind https.',
      )
    }
    const context = new AudioContext({ sampleRate: SAMPLE_RATE, latencyHint: 'interactive' })
    await context.audioWorklet.addModule(workletUrl)
    return context
  })()
  return shared
}

/**
 * Plays render plans: one mixer in the audio thread, one feeder in a worker that fetches ahead.
 * The audio clock is the master: {@link Engine.audibleAt} says what sounds at a moment.
 */
export class Engine {
  meter: Meter = { left: 0, right: 0, misses: 0 }
  /** Told when a sound can't be had. */
  onTrouble: ((message: string) => void) | null = null
  /** How loud the parts of the mix have been since playing started. */
  levels: MixLevels = {}
  private readonly feeder = new Worker(new URL('./feeder.worker.ts', import.meta.url), { type: 'module' })
  private node: AudioWorkletNode | null = null
  private context: AudioContext | null = null
  private making: Promise<void> | null = null
  private plan: RenderPlan = EMPTY_PLAN
  private token = 0
  private running: { from: number; speed: number; loop: Loop | null; frame: number } | null = null
  private onStarted: (() => void) | null = null
  private readonly offsets: number[] = []

  constructor() {
    this.feeder.onmessage = ({ data }: MessageEvent<FromFeeder>) => {
      if (data.type === 'trouble') this.onTrouble?.(data.message)
      else this.levels = data.levels
    }
  }

  /** Sets what is heard; takes effect at once, also while playing. */
  setPlan(plan: RenderPlan): void {
    const news = planNews(this.plan, plan)
    this.plan = plan
    this.feed({ type: 'plan', news })
    this.order({ type: 'plan', news })
  }

  /** Loads a stretch of a recording ahead, so that it sounds at once when it enters the plan. */
  prepare(mediaId: string, from: number, to: number): void {
    this.feed({ type: 'prepare', mediaId, from, to })
  }

  /**
   * Starts playing; resolves when sound runs, false when another start or a stop came first.
   *
   * @param from - Sample of the reel.
   */
  async play(from: number, speed: number, loop: Loop | null): Promise<boolean> {
    const token = ++this.token
    this.running = null
    await this.make()
    await this.context?.resume()
    if (token !== this.token) return false
    const start = { token, from, speed, loop }
    return new Promise((resolve) => {
      this.onStarted = () => resolve(token === this.token)
      this.order({ type: 'arm', ...start })
      this.feed({ type: 'start', ...start })
    })
  }

  /** Stops at once. */
  stop(): void {
    this.token++
    this.running = null
    this.onStarted?.()
    this.onStarted = null
    this.order({ type: 'stop' })
    this.feed({ type: 'stop' })
    this.meter = { left: 0, right: 0, misses: this.meter.misses }
  }

  /** Sets or ends the loop of what plays, which goes on where it is: what sounds beside is not disturbed. */
  setLoop(loop: Loop | null): void {
    this.starting = { ...this.starting, loop }
    this.order({ type: 'loop', loop })
    this.feed({ type: 'loop', loop })
  }

  /** Says whether sound runs. */
  get playing(): boolean {
    return this.running !== null
  }

  /** Since sound runs straight on: the reel's sample `at` is played at the audio clock's `frame`. Null while nothing plays. */
  get rolling(): { readonly frame: number; readonly at: number } | null {
    return this.running && { frame: this.running.frame, at: this.running.from }
  }

  /**
   * The sample of the reel that leaves the loudspeaker at a moment, or null when nothing plays.
   *
   * @param now - Milliseconds, as `performance.now()`.
   */
  audibleAt(now: number): number | null {
    const { running, context } = this
    if (!running || !context) return null
    const elapsed = (this.contextTime(context, now) * SAMPLE_RATE - running.frame) * running.speed
    const straight = running.from + Math.max(0, elapsed)
    const { loop } = running
    if (!loop || straight < loop.to) return straight
    return loop.from + ((straight - loop.to) % (loop.to - loop.from))
  }

  /** Tells the feeder where playing is; called now and then. */
  reportPosition(sample: number): void {
    this.feed({ type: 'at', sample: Math.round(sample) })
  }

  /** Ends the worker and the node for good. */
  dispose(): void {
    this.stop()
    this.feeder.terminate()
    this.node?.disconnect()
  }

  /** Context time that is heard at a moment; the median of the last readings, since single ones jitter. */
  private contextTime(context: AudioContext, now: number): number {
    const stamp = context.getOutputTimestamp()
    if (stamp.contextTime && stamp.performanceTime) {
      this.offsets.push(stamp.contextTime - stamp.performanceTime / 1000)
      if (this.offsets.length > 31) this.offsets.shift()
      const sorted = [...this.offsets].sort((a, b) => a - b)
      return (sorted[sorted.length >> 1] ?? 0) + now / 1000
    }
    return context.currentTime - context.baseLatency
  }

  private async make(): Promise<void> {
    this.making ??= (async () => {
      const context = await audioContext()
      const node = new AudioWorkletNode(context, 'yodel-mixer', {
        numberOfInputs: 0,
        outputChannelCount: [2],
      })
      node.port.onmessage = ({ data }: MessageEvent<FromWorklet>) => this.hear(data)
      node.connect(context.destination)
      const { port1, port2 } = new MessageChannel()
      this.context = context
      this.node = node
      this.order({ type: 'feeder', port: port1 }, [port1])
      this.feed({ type: 'worklet', port: port2 }, [port2])
      this.order({ type: 'plan', news: planNews(EMPTY_PLAN, this.plan) })
    })()
    await this.making
  }

  private hear(message: FromWorklet): void {
    if (message.type === 'meter') {
      if (message.playing)
        this.meter = {
          left: Math.max(message.left, this.meter.left * 0.8),
          right: Math.max(message.right, this.meter.right * 0.8),
          misses: message.misses,
        }
      return
    }
    if (message.token !== this.token) return
    if (message.type === 'started') this.offsets.length = 0
    this.running = { ...this.starting, from: message.at, frame: message.frame }
    if (message.type === 'looped') return
    this.onStarted?.()
    this.onStarted = null
  }

  private starting: { from: number; speed: number; loop: Loop | null } = { from: 0, speed: 1, loop: null }

  private order(message: ToWorklet, transfer: Transferable[] = []): void {
    if (message.type === 'arm')
      this.starting = { from: message.from, speed: message.speed, loop: message.loop }
    this.node?.port.postMessage(message, transfer)
  }

  private feed(message: ToFeeder, transfer: Transferable[] = []): void {
    this.feeder.postMessage(message, transfer)
  }
}
