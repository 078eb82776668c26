import {
  EMPTY_PLAN,
  foldedRoom,
  insertsOfPlan,
  PCM_CHUNK,
  samplesIn,
  type RenderPlan,
  type Room,
} from '@yodel/core'
import type { FeedMessage, FromFeeder, Loop, Start, ToFeeder } from './messages.js'
import { chunksWithin } from './pcm.js'
import { planAfter } from './planNews.js'

const HORIZON = samplesIn(6)
const BEHIND = samplesIn(2)
/** A refresh's worth of what has just passed may still be asked for. */
const JUST_PASSED = samplesIn(0.1)
/** How much must be there before playing starts; the rest follows while it plays. */
const FIRST = samplesIn(1)
const AT_ONCE = 6
/** So many sounds are kept ready beside what the plan needs. */
const MOST_PREPARED = 4
/** A sound that can't be had is asked for again only after this. */
const BROKEN_MS = 3000

interface Chunk {
  readonly mediaId: string
  readonly index: number
}

/** What a feeder is given: decoded sound, the audio thread, the page, and a clock in milliseconds. */
export interface FeederParts {
  readonly fetchChunk: (mediaId: string, index: number) => Promise<Float32Array[]>
  readonly toWorklet: (message: FeedMessage, transfer?: Transferable[]) => void
  readonly toPage: (message: FromFeeder) => void
  readonly now: () => number
}

const keyOf = ({ mediaId, index }: Chunk): string => `${mediaId}#${index}`

/**
 * Fetches decoded sound ahead of time and hands it to the audio thread, so that neither a busy page nor a long
 * recording can make a gap: what sounds within the horizon is there, the rest is not kept.
 */
export class Feeder {
  private plan: RenderPlan = EMPTY_PLAN
  private playing: Start | null = null
  private at = 0
  private readonly prepared = new Map<string, { mediaId: string; from: number; to: number }>()
  private readonly sent = new Map<string, Chunk>()
  private readonly loading = new Map<string, Promise<void>>()
  private readonly broken = new Map<string, number>()
  private readonly rooms = new Set<Room>()
  private connected = false

  constructor(private readonly parts: FeederParts) {}

  /** Takes what the page says. */
  take(message: Exclude<ToFeeder, { type: 'worklet' }>): void {
    switch (message.type) {
      case 'plan':
        this.plan = planAfter(this.plan, message.news)
        this.sendRooms()
        return this.fill()
      case 'start':
        this.playing = message
        this.at = message.from
        return void this.start(message)
      case 'loop':
        this.playing = this.playing && { ...this.playing, loop: message.loop }
        return this.fill()
      case 'stop':
        this.playing = null
        return
      case 'at':
        this.at = message.sample
        return
      case 'prepare':
        this.prepared.set(message.mediaId, message)
        if (this.prepared.size > MOST_PREPARED) this.prepared.delete([...this.prepared.keys()][0] ?? '')
        return this.fill()
    }
  }

  /** The audio thread is there: from now on it is fed. */
  connect(): void {
    this.connected = true
    this.sendRooms()
    this.fill()
  }

  /** Makes the rooms that the plan's reverbs answer with, each once; the audio thread has no time for it. */
  private sendRooms(): void {
    if (!this.connected) return
    for (const insert of insertsOfPlan(this.plan)) {
      if (insert.effect !== 'reverb' || this.rooms.has(insert.room)) continue
      const { room } = insert
      this.rooms.add(room)
      this.parts.toWorklet({ type: 'room', room, folded: foldedRoom(room) })
    }
  }

  /** Fetches what is needed next, a few at once, and lets go of what is not needed any more. */
  fill(): void {
    if (!this.connected) return
    const loop = this.playing?.loop ?? null
    const needed = [...this.ahead(), ...this.around(loop), ...this.ready()]
    const behind = chunksWithin(this.plan, Math.max(0, this.at - BEHIND), this.at)
    this.forgetAllBut(new Set([...needed, ...behind].map(keyOf)))
    for (const chunk of needed) {
      if (this.loading.size >= AT_ONCE) return
      void this.load(chunk)
    }
  }

  private ahead(): Chunk[] {
    return chunksWithin(this.plan, Math.max(0, this.at - JUST_PASSED), this.at + HORIZON)
  }

  private around(loop: Loop | null): Chunk[] {
    return loop ? chunksWithin(this.plan, loop.from, Math.min(loop.to, loop.from + HORIZON)) : []
  }

  private ready(): Chunk[] {
    return [...this.prepared.values()].flatMap(({ mediaId, from, to }) => {
      const [first, last] = [Math.floor(from / PCM_CHUNK), Math.floor((to - 1) / PCM_CHUNK)]
      return Array.from({ length: last - first + 1 }, (_, step) => ({ mediaId, index: first + step }))
    })
  }

  private async start(wanted: Start): Promise<void> {
    await Promise.all(
      chunksWithin(this.plan, wanted.from, wanted.from + FIRST).map((chunk) => this.load(chunk)),
    )
    if (this.playing?.token === wanted.token) this.parts.toWorklet({ type: 'go', token: wanted.token })
    this.fill()
  }

  private forgetAllBut(needed: ReadonlySet<string>): void {
    for (const [key, { mediaId, index }] of this.sent) {
      if (needed.has(key)) continue
      this.sent.delete(key)
      this.parts.toWorklet({ type: 'forget', mediaId, index })
    }
  }

  private async load(chunk: Chunk): Promise<void> {
    const key = keyOf(chunk)
    if (this.sent.has(key) || (this.broken.get(chunk.mediaId) ?? 0) > this.parts.now()) return
    const running = this.loading.get(key) ?? this.fetch(chunk).finally(() => this.loading.delete(key))
    this.loading.set(key, running)
    await running
  }

  private async fetch({ mediaId, index }: Chunk): Promise<void> {
    try {
      const channels = await this.parts.fetchChunk(mediaId, index)
      this.sent.set(keyOf({ mediaId, index }), { mediaId, index })
      const transfer = channels.map((channel) => channel.buffer as ArrayBuffer)
      this.parts.toWorklet({ type: 'chunk', mediaId, index, channels }, transfer)
    } catch (error) {
      // A sound that can't be had must not be asked for a hundred times a second, nor keep the others waiting.
      this.broken.set(mediaId, this.parts.now() + BROKEN_MS)
      this.parts.toPage({ type: 'trouble', mediaId, message: wordsFor(error) })
    }
  }
}

function wordsFor(error: unknown): string {
  if (error instanceof TypeError) {
    return 'The server does not answer, so sounds that are not loaded yet stay silent.'
  }
  return error instanceof Error ? error.message : String(error)
}
