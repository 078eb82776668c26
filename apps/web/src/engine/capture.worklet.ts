/// <reference types="@types/audioworklet" />
import { InputLevel } from '@yodel/core'
import type { FromCapture, InputChannel, ToCapture } from './captureMessages.js'

/** Samples of each channel that are handed on at once (a twentieth of a second): what is lost when a page dies at once. */
const PART = 2400
const LEVEL_EVERY = 16
const SILENCE = new Float32Array(128)

/** Takes an input's samples as they come, while it is told to record; says how loud it is always. */
class CaptureProcessor extends AudioWorkletProcessor {
  private readonly levels = [new InputLevel(), new InputLevel()]
  private channel: InputChannel | null = null
  private part = new Float32Array(0)
  private filled = 0
  private first = 0
  private quanta = 0
  private heard = 1

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<ToCapture>) => {
      if (data.type === 'stop') return this.stop()
      this.channel = data.channel
      this.filled = 0
      for (const level of this.levels) level.clear()
    }
  }

  process([input = []]: Float32Array[][]): boolean {
    const left = input[0] ?? SILENCE
    // Of an input with one channel, every channel is that one.
    const right = input[1] ?? left
    this.heard = Math.max(1, input.length)
    this.levels[0]?.hear(left)
    if (input[1]) this.levels[1]?.hear(right)
    if (this.channel === 'both') this.take(left, right)
    else if (this.channel !== null) this.take(this.channel === 'left' ? left : right)
    if (++this.quanta % LEVEL_EVERY === 0) this.tellLevel()
    return true
  }

  private take(...channels: Float32Array[]): void {
    const length = channels[0]?.length ?? 0
    for (let i = 0; i < length; i++) {
      if (this.filled === 0) {
        this.part = new Float32Array(PART * channels.length)
        this.first = currentFrame + i
      }
      for (const channel of channels) this.part[this.filled++] = channel[i] as number
      if (this.filled === this.part.length) this.hand()
    }
  }

  private hand(): void {
    const samples = this.part.slice(0, this.filled)
    this.filled = 0
    this.post({ type: 'samples', frame: this.first, samples }, [samples.buffer])
  }

  private stop(): void {
    if (this.filled > 0) this.hand()
    this.channel = null
    this.post({ type: 'stopped' })
  }

  private tellLevel(): void {
    const peaks = this.levels.slice(0, this.heard).map((level) => level.peak())
    this.post({ type: 'level', peaks, overs: Math.max(...this.levels.map(({ overs }) => overs)) })
  }

  private post(message: FromCapture, transfer: Transferable[] = []): void {
    this.port.postMessage(message, transfer)
  }
}

registerProcessor('yodel-capture', CaptureProcessor)
