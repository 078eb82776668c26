/// <reference types="@types/audioworklet" />
import { InputParts } from '@yodel/core'
import type { FromCapture, ToCapture } from './captureMessages.js'

const SILENCE = new Float32Array(128)

/** Takes what comes into the audio graph as it comes, while it is told to record; says how loud it is always. */
class CaptureProcessor extends AudioWorkletProcessor {
  private readonly parts = new InputParts(
    (part) => this.post({ type: 'part', part }, [part.samples.buffer]),
    (levels) => this.post({ type: 'levels', levels }),
  )

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<ToCapture>) => {
      if (data.type === 'record') return this.parts.begin(data.channel)
      this.parts.end()
      this.post({ type: 'stopped' })
    }
  }

  process([input = []]: Float32Array[][]): boolean {
    this.parts.hear(currentFrame, input[0] ?? SILENCE, input[1] ?? null)
    return true
  }

  private post(message: FromCapture, transfer: Transferable[] = []): void {
    this.port.postMessage(message, transfer)
  }
}

registerProcessor('yodel-capture', CaptureProcessor)
