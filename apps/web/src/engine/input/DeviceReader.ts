import {
  InputParts,
  InputResampler,
  SAMPLE_RATE,
  SteadyReading,
  type InputChannel,
  type InputLevels,
  type InputPart,
} from '@yodel/core'
import { ANSWER_WITHIN_MS, type InputReader } from './InputReader.js'

/** Blocks that may wait while the page is busy: ten seconds at the least. */
const WAITING = 1000
/** The clocks are read so often (ms), and so many readings count: those of eight seconds, since sound servers guess in waves. */
const READ_EVERY = 50
const READINGS = 160
/** Clocks that differ from themselves by that have jumped (seconds): a device or the sound output stood still. */
const JUMP = 0.015
/** A stamp that is so far from now (ms) is of another clock than the page's. */
const FOREIGN = 10_000

/**
 * Reads a device's own samples, beside the audio graph. What the graph has of a device was led over from the device's clock to the
 * output's by dropping or repeating a block now and then; here nothing is lost while the sound output stutters, and takes lie by
 * the moments at which the device and the loudspeakers say they had a sample.
 */
export class DeviceReader implements InputReader {
  onPart: ((part: InputPart) => void) | null = null
  levels: InputLevels = { peaks: [], overs: 0 }
  private readonly parts = new InputParts(
    (part) => this.onPart?.(part),
    (levels) => (this.levels = levels),
  )
  private readonly blocks: ReadableStreamDefaultReader<AudioData>
  private resamplers: { rate: number; of: InputResampler[] } | null = null
  /** Seconds that the device has given. */
  private given = 0
  /** Samples at 48 kHz that came of them: a little fewer, what lies at a block's end is known with the next one. */
  private read = 0
  private clocksRead = 0
  /** Seconds of the page's clock at sample 0. */
  private readonly zero = new SteadyReading(READINGS, JUMP)
  /** The moment of the audio clock that is heard at second 0 of the page's. */
  private readonly heard = new SteadyReading(READINGS, JUMP)
  private stopping: { at: number; done: () => void } | null = null

  /** Says whether this browser gives a device's own samples. */
  static readonly isThere = (): boolean => typeof MediaStreamTrackProcessor !== 'undefined'

  /**
   * @param late - Frames by which the browser says that what is heard comes in late: frames of parts are those at which a sample
   *   would come into the graph
   */
  constructor(
    private readonly context: AudioContext,
    track: MediaStreamTrack,
    private readonly late: number,
  ) {
    this.blocks = new MediaStreamTrackProcessor({ track, maxBufferSize: WAITING }).readable.getReader()
    void this.readAll()
  }

  record(channel: InputChannel): void {
    this.parts.begin(channel)
  }

  stop(): Promise<void> {
    return new Promise((resolve) => {
      const done = (): void => {
        if (this.stopping?.done !== done) return
        this.stopping = null
        this.parts.end()
        resolve()
      }
      this.stopping = { at: performance.now(), done }
      setTimeout(done, ANSWER_WITHIN_MS)
    })
  }

  close(): void {
    this.onPart = null
    void this.blocks.cancel().catch(() => undefined)
  }

  private async readAll(): Promise<void> {
    for (;;) {
      const { value: block, done } = await this.blocks.read().catch(() => ({ value: undefined, done: true }))
      if (done || !block) break
      this.hear(block)
      block.close()
    }
    this.stopping?.done()
  }

  private hear(block: AudioData): void {
    const now = performance.now()
    const stamp = block.timestamp / 1000
    const at = Math.abs(now - stamp) < FOREIGN ? stamp : now
    const resamplers = this.resamplersOf(block)
    if (now - this.clocksRead >= READ_EVERY) this.readClocks(now, at)
    const [left = new Float32Array(0), right = null] = resamplers.map((resampler, planeIndex) => {
      const samples = new Float32Array(block.numberOfFrames)
      block.copyTo(samples, { planeIndex, format: 'f32-planar' })
      return resampler.push(samples)
    })
    this.given += block.numberOfFrames / block.sampleRate
    this.parts.hear(this.frameOf(this.read), left, right)
    this.read += left.length
    if (this.stopping && at >= this.stopping.at) this.stopping.done()
  }

  /** @param at - When the device had the first sample that has not been read yet; ms */
  private readClocks(now: number, at: number): void {
    this.clocksRead = now
    this.zero.add(at / 1000 - this.given)
    const { contextTime = 0, performanceTime = 0 } = this.context.getOutputTimestamp()
    if (performanceTime > 0) this.heard.add(contextTime - performanceTime / 1000)
  }

  /** The audio clock's frame at which a sample came in. */
  private frameOf(sample: number): number {
    const moment = this.zero.value + sample / SAMPLE_RATE
    return Math.round((moment + this.heard.value) * SAMPLE_RATE) + this.late
  }

  /** One for each channel; new ones where the device changes what it gives. */
  private resamplersOf({ sampleRate, numberOfChannels }: AudioData): InputResampler[] {
    const count = Math.min(2, numberOfChannels)
    const { rate, of } = this.resamplers ?? { rate: 0, of: [] }
    if (rate === sampleRate && of.length === count) return of
    const made = Array.from({ length: count }, () => new InputResampler(sampleRate))
    this.resamplers = { rate: sampleRate, of: made }
    this.read = Math.round(this.given * SAMPLE_RATE)
    return made
  }
}
