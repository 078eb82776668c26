import { frames, frameToSample, sampleToFrame, type FrameRate, type Frames } from '@yodel/core'
import type { Engine } from '../engine/Engine.js'
import type { Loop } from '../engine/messages.js'

/** Speeds at which the reel plays. */
export const SPEEDS = [0.25, 0.5, 1] as const

const REPORT_MS = 200
/** A frame drawn now is seen at the next refresh. */
const DISPLAY_MS = 16

/**
 * Where the reel stands at the gate. While playing the audio clock says so; stopped, it is the place last gone to.
 * Lives beside React: what moves with every frame subscribes and draws by itself.
 */
export class Transport {
  /** 1, 0.5 or 0.25. */
  speed: number = 1
  /** Frame of the reel whose picture was drawn last; null while there is no picture that counts as the reel does. */
  seen: Frames | null = null
  /** Told the frame that the gate is likely to go to next, so that its picture is ready. */
  onExpected: ((frame: number) => void) | null = null
  /** Told when playing can't start. */
  onError: ((message: string) => void) | null = null
  private parked = 0
  private state: 'stopped' | 'starting' | 'playing' = 'stopped'
  private looped: Loop | null = null
  private lastReport = 0
  private frameRequest = 0
  private readonly listeners = new Set<(sample: number) => void>()
  private readonly watchers = new Set<() => void>()

  constructor(
    private readonly engine: Engine,
    private readonly rate: FrameRate,
    private readonly endFrame: number,
  ) {
    const tick = (): void => {
      this.tick()
      this.frameRequest = requestAnimationFrame(tick)
    }
    this.frameRequest = requestAnimationFrame(tick)
  }

  /** Sample of the reel at the gate, as seen and heard at the next refresh. Whole only when stopped. */
  get sample(): number {
    if (this.state !== 'playing') return this.parked
    return this.engine.audibleAt(performance.now() + DISPLAY_MS) ?? this.parked
  }

  /** Frame at the gate. */
  get frame(): Frames {
    return sampleToFrame(Math.floor(this.sample), this.rate)
  }

  /** Frame that the editor sees: what is spotted or stopped on. While rolling the picture may be a refresh behind the gate. */
  get frameOnScreen(): Frames {
    return this.state === 'playing' && this.seen !== null ? this.seen : this.frame
  }

  /** Says whether the reel rolls or is about to. */
  get rolling(): boolean {
    return this.state !== 'stopped'
  }

  /** The stretch that playing goes round in, or null. */
  get loop(): Loop | null {
    return this.looped
  }

  /** Calls back at each refresh at which the gate has moved, and once now; returns the way to end it. */
  subscribe(listener: (sample: number) => void): () => void {
    this.listeners.add(listener)
    listener(this.sample)
    return () => this.listeners.delete(listener)
  }

  /** Calls back when playing starts or stops, the speed or the loop changes; returns the way to end it. */
  watchState(watcher: () => void): () => void {
    this.watchers.add(watcher)
    return () => this.watchers.delete(watcher)
  }

  private tellState(): void {
    for (const watcher of this.watchers) watcher()
  }

  /** Goes to a sample of the reel; a rolling reel goes on from there. */
  goToSample(sample: number): void {
    const last = frameToSample(frames(Math.max(0, this.endFrame - 1)), this.rate)
    this.parked = Math.max(0, Math.min(last, Math.round(sample)))
    if (this.rolling) void this.start()
    else this.engine.reportPosition(this.parked)
    this.announce()
  }

  /** Goes to the first sample of a frame. */
  goToFrame(frame: number): void {
    this.goToSample(frameToSample(frames(Math.max(0, Math.min(this.endFrame - 1, frame))), this.rate))
  }

  /** Stops and steps by frames. */
  step(frames: number): void {
    const from = this.frame
    this.stop()
    this.goToFrame(from + frames)
  }

  /** Plays on from the gate. */
  play(): void {
    if (!this.rolling) void this.start()
  }

  /** Stops on the frame that is on screen. */
  stop(): void {
    if (!this.rolling) return
    const frame = this.frameOnScreen
    this.engine.stop()
    this.state = 'stopped'
    this.parked = frameToSample(frame, this.rate)
    this.announce()
    this.tellState()
  }

  /** Plays or stops. */
  toggle(): void {
    if (this.rolling) this.stop()
    else this.play()
  }

  /** Sets the speed; a rolling reel goes on at it. */
  setSpeed(speed: number): void {
    if (this.speed === speed) return
    this.parked = Math.round(this.sample)
    this.speed = speed
    if (this.rolling) void this.start()
    this.tellState()
  }

  /** Sets or ends a loop, in samples; a rolling reel outside it goes to its beginning, one within it goes on without a gap. */
  setLoop(loop: Loop | null): void {
    this.parked = Math.round(this.sample)
    this.looped = loop
    const outside = loop !== null && (this.parked < loop.from || this.parked >= loop.to)
    if (outside) this.parked = loop.from
    if (this.state === 'playing' && !outside) this.engine.setLoop(loop)
    else if (this.rolling) void this.start()
    this.tellState()
  }

  /** Ends it for good. */
  dispose(): void {
    cancelAnimationFrame(this.frameRequest)
    this.engine.stop()
    this.listeners.clear()
    this.watchers.clear()
  }

  private async start(): Promise<void> {
    this.state = 'starting'
    this.tellState()
    try {
      const started = await this.engine.play(Math.round(this.parked), this.speed, this.looped)
      if (started && this.state === 'starting') {
        this.state = 'playing'
        this.tellState()
      }
    } catch (error) {
      this.state = 'stopped'
      this.tellState()
      this.onError?.(error instanceof Error ? error.message : String(error))
    }
  }

  private tick(): void {
    if (this.state !== 'playing') return
    const sample = this.sample
    const end = frameToSample(frames(this.endFrame), this.rate)
    if (sample >= end) {
      this.parked = frameToSample(frames(this.endFrame - 1), this.rate)
      this.engine.stop()
      this.state = 'stopped'
      this.tellState()
    }
    if (performance.now() - this.lastReport > REPORT_MS) {
      this.lastReport = performance.now()
      this.engine.reportPosition(sample)
    }
    this.announce()
  }

  /** Tells all listeners where the gate is, also when what changed is something else that they draw by. */
  announce(): void {
    const sample = this.sample
    for (const listener of this.listeners) listener(sample)
  }
}
