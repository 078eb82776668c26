import { measureRoundTrip, SAMPLE_RATE, TEST_LENGTH, testSound } from '@yodel/core'
import workletUrl from './capture.worklet.ts?worker&url'
import type { FromCapture, InputChannel, ToCapture } from './captureMessages.js'
import { audioContext } from './Engine.js'
import { StandIn } from './StandIn.js'

/** Something that can be recorded from. */
export interface InputDevice {
  readonly id: string
  readonly name: string
}

/** What the ids of made devices begin with. */
export const STAND_IN = 'stand-in:'

/** Part of the recording while a device stands open. */
export interface InputPart {
  /** The audio clock's frame of its first sample. */
  readonly frame: number
  /** Channels interleaved. */
  readonly samples: Float32Array<ArrayBuffer>
}

/** Seconds between asking for the test sound and its beginning; doubled where a busy machine takes longer. */
const LEAD = 0.3
const LONGEST_LEAD = 3
/** Longer than that no audio thread is late. */
const MEASURED_WITHIN_MS = 15_000

let loaded: Promise<void> | null = null

/** The microphones and inputs that there are; names are known once one of them was allowed. */
export async function inputDevices(): Promise<InputDevice[]> {
  const all = (await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? []
  return all
    .filter(({ kind, deviceId }) => kind === 'audioinput' && deviceId !== '')
    .map(({ deviceId: id, label }, index) => ({ id, name: label || `Input ${index + 1}` }))
}

/** Says whenever an input is plugged in or pulled out. @returns What ends that */
export function watchInputs(changed: () => void): () => void {
  const { mediaDevices } = navigator
  mediaDevices?.addEventListener('devicechange', changed)
  return () => mediaDevices?.removeEventListener('devicechange', changed)
}

/** Says whether there is any input, allowed or not. */
export const hasInput = async (): Promise<boolean> =>
  ((await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? []).some(
    ({ kind }) => kind === 'audioinput',
  )

/** Why an input can't be had, and what to do. */
function inputTrouble(error: unknown): Error {
  const { name } = error as { name?: string }
  const words: Record<string, string> = {
    NotAllowedError:
      'This page may not use the microphone. Allow it beside the address of the page, or choose the stand-in.',
    NotFoundError: 'There is no such input any more. Plug it in, or choose another one.',
    NotReadableError:
      'The input is in use by another program, or can’t be opened. Free it, or choose another one.',
    OverconstrainedError: 'There is no such input any more. Plug it in, or choose another one.',
  }
  return new Error(words[name ?? ''] ?? `The input can’t be opened: ${String(error)}.`)
}

/** An open input: its samples as they come, at 48 kHz, with nothing that a browser does to voices. */
export class Capture {
  /** Told what comes in while it records. */
  onPart: ((part: InputPart) => void) | null = null
  /** Told when the device has gone. */
  onLost: (() => void) | null = null
  /** The peak of each channel since the last message, 1 at full scale, and overs of this recording. */
  level: { readonly peaks: readonly number[]; readonly overs: number } = { peaks: [], overs: 0 }
  private stopped: (() => void) | null = null

  private constructor(
    private readonly context: AudioContext,
    private readonly node: AudioWorkletNode,
    private readonly stream: MediaStream | null,
    /** The person in the place of a microphone, or null. */
    readonly standIn: StandIn | null,
  ) {
    node.port.onmessage = ({ data }: MessageEvent<FromCapture>) => this.hear(data)
    const [track] = stream?.getAudioTracks() ?? []
    track?.addEventListener('ended', () => this.onLost?.())
  }

  /** Opens a device, or the stand-in. @throws Error in words for the editor */
  static async open(deviceId: string): Promise<Capture> {
    const context = await audioContext()
    await context.resume()
    loaded ??= context.audioWorklet.addModule(workletUrl)
    await loaded
    const isMade = deviceId.startsWith(STAND_IN)
    const stream = isMade ? null : await Capture.stream(deviceId)
    const standIn = isMade ? new StandIn(context) : null
    const node = new AudioWorkletNode(context, 'yodel-capture', {
      ...{ numberOfInputs: 1, numberOfOutputs: 1, channelCountMode: 'max' },
    })
    if (stream) context.createMediaStreamSource(stream).connect(node)
    standIn?.out.connect(node)
    // It gives silence; connected, it runs.
    node.connect(context.destination)
    return new Capture(context, node, stream, standIn)
  }

  private static async stream(deviceId: string): Promise<MediaStream> {
    if (!navigator.mediaDevices)
      throw new Error(
        'This browser gives inputs only to pages from this computer or over https. Open Yodel at 127.0.0.1, or put it behind https.',
      )
    const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false }
    const audio = { ...plain, channelCount: 2, ...(deviceId ? { deviceId: { exact: deviceId } } : {}) }
    return navigator.mediaDevices.getUserMedia({ audio }).catch((error: unknown) => {
      throw inputTrouble(error)
    })
  }

  /** Id of the device that was opened, where the browser chose it. */
  get deviceId(): string | null {
    return this.stream?.getAudioTracks()[0]?.getSettings().deviceId ?? null
  }

  /** Samples of a round trip as the browser says: out of the loudspeaker and into the input. */
  get saidRoundTrip(): number {
    const { outputLatency, baseLatency } = this.context
    const settings = this.stream?.getAudioTracks()[0]?.getSettings() as { latency?: number } | undefined
    return Math.round(((outputLatency || baseLatency) + (settings?.latency ?? 0)) * SAMPLE_RATE)
  }

  /** Begins to record. */
  record(channel: InputChannel): void {
    this.tell({ type: 'record', channel })
  }

  /** Ends recording; resolves when the last samples have been handed on. */
  stop(): Promise<void> {
    return new Promise((resolve) => {
      this.stopped = resolve
      this.tell({ type: 'stop' })
      // A thread that is gone never answers; what came until now counts.
      setTimeout(resolve, 1000)
    })
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
    const before = this.onPart
    let begin = Infinity
    const whole = new Promise<void>((resolve) => {
      this.onPart = ({ frame, samples }) => {
        const length = samples.length / step
        for (let i = 0; i < length; i++) {
          const at = frame + i - begin
          if (at >= 0 && at < heard.length) heard[at] = samples[i * step] as number
        }
        if (frame + length >= begin + TEST_LENGTH) resolve()
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
    return measureRoundTrip(heard)
  }

  /** Closes it for good. */
  close(): void {
    this.onPart = this.onLost = null
    this.standIn?.dispose()
    this.node.disconnect()
    this.node.port.close()
    for (const track of this.stream?.getTracks() ?? []) track.stop()
  }

  private hear(message: FromCapture): void {
    if (message.type === 'samples') this.onPart?.(message)
    else if (message.type === 'level') this.level = message
    else {
      this.stopped?.()
      this.stopped = null
    }
  }

  private tell(message: ToCapture): void {
    this.node.port.postMessage(message)
  }
}
