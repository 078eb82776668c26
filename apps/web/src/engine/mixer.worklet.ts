/// <reference types="@types/audioworklet" />
import {
  EMPTY_PLAN,
  MIX_PARTS,
  Mixer,
  PCM_CHUNK,
  Varispeed,
  type FoldedRoom,
  type Room,
  type SoundBlock,
} from '@yodel/core'
import type { FeedMessage, FromWorklet, HeardMessage, MixPart, Start, ToWorklet } from './messages.js'
import { planAfter } from './planNews.js'
import { StartGate } from './StartGate.js'

const METER_EVERY = 16
/** Samples of each part of the mix that are handed on at once to be measured. */
const HEARD = 4800

/** Plays a render plan in the audio thread from chunks that the feeder has sent ahead. */
class MixerProcessor extends AudioWorkletProcessor {
  private plan = EMPTY_PLAN
  private readonly rooms = new Map<Room, FoldedRoom>()
  private feeder: MessagePort | null = null
  private readonly collected = new Map(
    MIX_PARTS.map((part) => [part, { samples: new Float32Array(2 * HEARD), filled: 0 }]),
  )
  private readonly chunks = new Map<string, Map<number, SoundBlock>>()
  private readonly mixer = new Mixer(
    EMPTY_PLAN,
    (mediaId, at) => this.chunks.get(mediaId)?.get(Math.floor(at / PCM_CHUNK)) ?? null,
    (room) => this.rooms.get(room) ?? null,
  )
  private readonly speeder = new Varispeed((left, right, into, length) =>
    this.pull(left, right, into, length),
  )
  private readonly gate = new StartGate()
  private playing: Start | null = null
  private quanta = 0
  private peakLeft = 0
  private peakRight = 0

  constructor() {
    super()
    this.mixer.tap = (part, left, right, count) => this.collect(part, left, right, count)
    this.port.onmessage = ({ data }: MessageEvent<ToWorklet>) => this.obey(data)
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const left = outputs[0]?.[0]
    const right = outputs[0]?.[1]
    if (!left || !right) return true
    if (this.playing) {
      this.speeder.render(left, right, left.length, this.playing.speed)
      for (let i = 0; i < left.length; i++) {
        this.peakLeft = Math.max(this.peakLeft, Math.abs(left[i] as number))
        this.peakRight = Math.max(this.peakRight, Math.abs(right[i] as number))
      }
    }
    if (++this.quanta % METER_EVERY === 0) this.meter()
    return true
  }

  private obey(message: ToWorklet): void {
    switch (message.type) {
      case 'plan':
        this.plan = planAfter(this.plan, message.news)
        return this.mixer.setPlan(this.plan)
      case 'arm':
        return this.begin(this.gate.arm(message))
      case 'loop':
        this.gate.change({ loop: message.loop })
        if (!this.playing) return
        this.playing = { ...this.playing, loop: message.loop }
        return this.post({
          type: 'looped',
          token: this.playing.token,
          frame: currentFrame,
          at: this.mixer.at - this.speeder.ahead,
        })
      case 'stop':
        this.playing = null
        this.gate.stop()
        return
      case 'feeder':
        this.feeder = message.port
        message.port.onmessage = ({ data }: MessageEvent<FeedMessage>) => this.feed(data)
        return
    }
  }

  private feed(message: FeedMessage): void {
    if (message.type === 'room') {
      this.rooms.set(message.room, message.folded)
    } else if (message.type === 'chunk') {
      const kept = this.chunks.get(message.mediaId) ?? new Map<number, SoundBlock>()
      this.chunks.set(message.mediaId, kept)
      kept.set(message.index, {
        from: message.index * PCM_CHUNK,
        channels: message.channels as [Float32Array],
      })
    } else if (message.type === 'forget') {
      this.chunks.get(message.mediaId)?.delete(message.index)
    } else this.begin(this.gate.go(message.token))
  }

  private begin(start: Start | null): void {
    if (!start) return
    this.playing = start
    this.speeder.reset()
    this.mixer.seek(start.from)
    this.mixer.forgetMisses()
    this.post({ type: 'started', token: start.token, frame: currentFrame, at: start.from })
  }

  private pull(left: Float32Array, right: Float32Array, into: number, length: number): void {
    const loop = this.playing?.loop ?? null
    for (let done = 0; done < length;) {
      if (loop && this.mixer.at >= loop.to) this.mixer.jump(loop.from)
      const count = loop ? Math.min(length - done, loop.to - this.mixer.at) : length - done
      this.mixer.render(left, right, into + done, count)
      done += count
    }
  }

  /** Gathers a part of the mix for the feeder, which measures how loud it is: here there is no time for that. */
  private collect(part: MixPart, left: Float32Array, right: Float32Array, count: number): void {
    const kept = this.collected.get(part)
    if (!kept) return
    for (let i = 0; i < count; i++) {
      kept.samples[2 * kept.filled] = left[i] as number
      kept.samples[2 * kept.filled + 1] = right[i] as number
      if (++kept.filled < HEARD) continue
      const { samples } = kept
      kept.samples = new Float32Array(2 * HEARD)
      kept.filled = 0
      this.feeder?.postMessage({ type: 'heard', part, samples } satisfies HeardMessage, [samples.buffer])
    }
  }

  private meter(): void {
    this.post({
      type: 'meter',
      left: this.peakLeft,
      right: this.peakRight,
      misses: this.mixer.misses,
      frame: currentFrame,
      at: this.mixer.at,
      playing: this.playing !== null,
    })
    this.peakLeft = this.peakRight = 0
  }

  private post(message: FromWorklet): void {
    this.port.postMessage(message)
  }
}

registerProcessor('yodel-mixer', MixerProcessor)
