import {
  measureRoundTrip,
  PartRow,
  SAMPLE_RATE,
  TEST_LENGTH,
  testSound,
  type InputChannel,
  type InputLevels,
  type InputPart,
} from '@yodel/core'
import { audioContext } from '../Engine.js'
import { DeviceReader } from './DeviceReader.js'
import { GraphReader } from './GraphReader.js'
import type { InputReader } from './InputReader.js'
import { openStream, STAND_IN } from './inputs.js'
import { StandIn } from './StandIn.js'

/** Seconds between asking for the test sound and its beginning; doubled where a busy machine takes longer. */
const LEAD = 0.3
const LONGEST_LEAD = 3
/** Longer than that no audio thread is late. */
const MEASURED_WITHIN_MS = 15_000

/** An open input: its samples as they come, at 48 kHz, with nothing that a browser does to voices. */
export class Capture {
  /** Told when the device has gone. */
  onLost: (() => void) | null = null

  private constructor(
    private readonly context: AudioContext,
    private readonly reader: InputReader,
    private readonly stream: MediaStream | null,
    /** The person in the place of a microphone, or null. */
    readonly standIn: StandIn | null,
    /** Samples of a round trip as the browser says when it is opened: out of the loudspeaker and into the input. */
    readonly saidRoundTrip: number,
  ) {
    const [track] = stream?.getAudioTracks() ?? []
    track?.addEventListener('ended', () => this.onLost?.())
  }

  /** Opens a device, or the stand-in. @throws Error in words for the editor */
  static async open(deviceId: string): Promise<Capture> {
    const context = await audioContext()
    await context.resume()
    const out = context.outputLatency || context.baseLatency
    if (deviceId.startsWith(STAND_IN)) {
      const standIn = new StandIn(context)
      const reader = await GraphReader.open(context, standIn.out)
      return new Capture(context, reader, null, standIn, Math.round(out * SAMPLE_RATE))
    }
    const stream = await openStream(deviceId)
    const [track] = stream.getAudioTracks()
    const settings = track?.getSettings() as { latency?: number } | undefined
    const said = Math.round((out + (settings?.latency ?? 0)) * SAMPLE_RATE)
    const reader =
      track && DeviceReader.isThere()
        ? new DeviceReader(context, track, said)
        : await GraphReader.open(context, context.createMediaStreamSource(stream))
    return new Capture(context, reader, stream, null, said)
  }

  /** Id of the device that was opened, where the browser chose it. */
  get deviceId(): string | null {
    return this.stream?.getAudioTracks()[0]?.getSettings().deviceId ?? null
  }

  /** How loud it is. */
  get level(): InputLevels {
    return this.reader.levels
  }

  /** Whoever is told what comes in while it records. */
  set onPart(told: ((part: InputPart) => void) | null) {
    this.reader.onPart = told
  }

  /** Begins to record. */
  record(channel: InputChannel): void {
    this.reader.record(channel)
  }

  /** Ends recording; resolves when the last samples have been handed on. */
  stop(): Promise<void> {
    return this.reader.stop()
  }

  /** Plays a sound at once, or at a frame of the audio clock; an open microphone hears it. */
  play(sound: Float32Array<ArrayBuffer>, frame?: number): AudioBufferSourceNode {
    const { context } = this
    const buffer = context.createBuffer(1, sound.length, SAMPLE_RATE)
    buffer.copyToChannel(sound, 0)
    const source = new AudioBufferSourceNode(context, { buffer })
    source.connect(context.destination)
    if (this.standIn) source.connect(this.standIn.ear)
    source.start(frame === undefined ? 0 : frame / SAMPLE_RATE)
    return source
  }

  /** The first channel of a file of sound at 48 kHz. @throws DOMException when it can't be decoded */
  async decode(bytes: ArrayBuffer): Promise<Float32Array<ArrayBuffer>> {
    return (await this.context.decodeAudioData(bytes)).getChannelData(0)
  }

  /** Measures the round trip by a sound that is played and found in the input. @returns Samples; null where it was not heard */
  async measureRoundTrip(channel: InputChannel): Promise<number | null> {
    const { context } = this
    const heard = new Float32Array(TEST_LENGTH)
    const step = channel === 'both' ? 2 : 1
    const before = this.reader.onPart
    const row = new PartRow()
    let begin = Infinity
    const whole = new Promise<void>((resolve) => {
      this.onPart = ({ frame, samples }) => {
        const length = samples.length / step
        const first = row.add(frame, length)
        for (let i = 0; i < length; i++) {
          const at = first + i - begin
          if (at >= 0 && at < heard.length) heard[at] = samples[i * step] as number
        }
        if (first + length >= begin + TEST_LENGTH) resolve()
      }
    })
    this.record(channel)
    for (let lead = LEAD; lead < LONGEST_LEAD; lead *= 2) {
      begin = Math.ceil((context.currentTime + lead) * SAMPLE_RATE)
      const source = this.play(testSound(), begin)
      // Begun later than it was to, it would measure how busy this machine is.
      if (context.currentTime * SAMPLE_RATE < begin - SAMPLE_RATE / 20) break
      source.stop()
    }
    // A busy audio thread runs late: what counts is its clock, and not the time of day.
    await Promise.race([whole, new Promise((resolve) => setTimeout(resolve, MEASURED_WITHIN_MS))])
    await this.stop()
    this.onPart = before
    const found = measureRoundTrip(heard)
    return found === null ? null : Math.max(0, found + row.lies().later)
  }

  /** Closes it for good. */
  close(): void {
    this.onLost = null
    this.standIn?.dispose()
    this.reader.close()
    for (const track of this.stream?.getTracks() ?? []) track.stop()
  }
}
