import { samplesIn, type RenderPlan } from '@yodel/core'
import type { Engine } from '../engine/Engine.js'
import type { Loop } from '../engine/messages.js'

/** An engine that makes no sound: it keeps what it is told, and its clock is the test's. */
export class FakeEngine {
  readonly meter = { left: 0, right: 0, misses: 0 }
  readonly plans: RenderPlan[] = []
  /** What was played, in order: from which sample, how fast, round what. */
  readonly played: { from: number; speed: number; loop: Loop | null }[] = []
  readonly prepared: { id: string; from: number; to: number }[] = []
  readonly positions: number[] = []
  stops = 0
  onTrouble: ((message: string) => void) | null = null
  /** What makes playing fail, if anything. */
  trouble: Error | null = null
  /** Milliseconds by which its clock is read late. */
  slip = 0
  private since = 0

  constructor(private readonly now: () => number) {}

  get plan(): RenderPlan {
    return this.plans.at(-1) as RenderPlan
  }

  /** Sound runs as soon as it was played. */
  get rolling(): { frame: number; at: number } | null {
    const last = this.played.at(-1)
    return last ? { frame: 0, at: last.from } : null
  }

  setPlan(plan: RenderPlan): void {
    this.plans.push(plan)
  }

  async play(from: number, speed: number, loop: Loop | null): Promise<boolean> {
    await Promise.resolve()
    if (this.trouble) throw this.trouble
    this.played.push({ from, speed, loop })
    this.since = this.now()
    return true
  }

  /** The sample that sounds at a moment: as many as time has passed since the last start, at its speed, gone round. */
  audibleAt(at: number): number | null {
    const last = this.played.at(-1)
    if (!last) return null
    const sample = last.from + samplesIn((at + this.slip - this.since) / 1000) * last.speed
    const { loop } = last
    return loop && sample >= loop.to ? loop.from + ((sample - loop.from) % (loop.to - loop.from)) : sample
  }

  setLoop(loop: Loop | null): void {
    const last = this.played.at(-1)
    if (last) this.played.push({ ...last, loop })
  }

  prepare(id: string, from: number, to: number): void {
    this.prepared.push({ id, from, to })
  }

  reportPosition(sample: number): void {
    this.positions.push(sample)
  }

  stop(): void {
    this.stops++
  }

  dispose(): void {
    this.stop()
  }

  /** As what needs an engine is given it. */
  asEngine(): Engine {
    return this as unknown as Engine
  }
}
