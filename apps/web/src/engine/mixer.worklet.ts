/// <reference types="@types/audioworklet" />
import { Mixer, PCM_CHUNK, Varispeed, type SoundBlock } from '@yodel/core'
import type { FeedMessage, FromWorklet, Start, ToWorklet } from './messages.js'

const METER_EVERY = 16

/** Plays a render plan in the audio thread from chunks that the feeder has sent ahead. */
class MixerProcessor extends AudioWorkletProcessor {
  private readonly chunks = new Map<string, Map<number, SoundBlock>>()
  private readonly mixer = new Mixer({ voices: [] }, (mediaId, at) => this.chunks.get(mediaId)?.get(Math.floor(at / PCM_CHUNK)) ?? null)
  private readonly speeder = new Varispeed((left, right, into, length) => this.pull(left, right, into, length))
  private armed: Start | null = null
  private playing: Start | null = null
  private quanta = 0
  private peakLeft = 0
  private peakRight = 0

  constructor() {
    super()
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
        return this.mixer.setPlan(message.plan)
      case 'arm':
        this.armed = message
        return
      case 'stop':
        this.playing = this.armed = null
        return
      case 'feeder':
        message.port.onmessage = ({ data }: MessageEvent<FeedMessage>) => this.feed(data)
        return
    }
  }

  private feed(message: FeedMessage): void {
    if (message.type === 'chunk') {
      const kept = this.chunks.get(message.mediaId) ?? new Map<number, SoundBlock>()
      this.chunks.set(message.mediaId, kept)
      kept.set(message.index, { from: message.index * PCM_CHUNK, channels: message.channels as [Float32Array] })
    } else if (message.type === 'forget') {
      this.chunks.get(message.mediaId)?.delete(message.index)
    } else if (this.armed?.token === message.token) {
      this.begin(this.armed)
    }
  }

  private begin(start: Start): void {
    this.playing = start
    this.armed = null
    this.speeder.reset()
    this.mixer.seek(start.from)
    this.mixer.misses = 0
    this.say({ type: 'started', token: start.token, frame: currentFrame })
  }

  private pull(left: Float32Array, right: Float32Array, into: number, length: number): void {
    const loop = this.playing?.loop ?? null
    for (let done = 0; done < length;) {
      if (loop && this.mixer.at >= loop.to) this.mixer.seek(loop.from)
      const count = loop ? Math.min(length - done, loop.to - this.mixer.at) : length - done
      this.mixer.render(left, right, into + done, count)
      done += count
    }
  }

  private meter(): void {
    this.say({ type: 'meter', left: this.peakLeft, right: this.peakRight, misses: this.mixer.misses, frame: currentFrame, at: this.mixer.at, playing: this.playing !== null })
    this.peakLeft = this.peakRight = 0
  }

  private say(message: FromWorklet): void {
    this.port.postMessage(message)
  }
}

registerProcessor('yodel-mixer', MixerProcessor)
