import type { InputChannel, InputLevels, InputPart } from '@yodel/core'
import workletUrl from './capture.worklet.ts?worker&url'
import type { FromCapture, ToCapture } from './captureMessages.js'
import { ANSWER_WITHIN_MS, type InputReader } from './InputReader.js'

let loaded: Promise<void> | null = null

/**
 * Reads what comes into the audio graph, sample by sample of its clock: the stand-in, and devices in browsers that give their
 * samples in no other way.
 */
export class GraphReader implements InputReader {
  onPart: ((part: InputPart) => void) | null = null
  levels: InputLevels = { peaks: [], overs: 0 }
  private stopped: (() => void) | null = null

  private constructor(private readonly node: AudioWorkletNode) {
    node.port.onmessage = ({ data }: MessageEvent<FromCapture>) => this.hear(data)
  }

  /** Begins to read what a node gives. */
  static async open(context: AudioContext, from: AudioNode): Promise<GraphReader> {
    loaded ??= context.audioWorklet.addModule(workletUrl)
    await loaded
    const node = new AudioWorkletNode(context, 'yodel-capture', {
      ...{ numberOfInputs: 1, numberOfOutputs: 1, channelCountMode: 'max' },
    })
    from.connect(node)
    // It gives silence; connected, it runs.
    node.connect(context.destination)
    return new GraphReader(node)
  }

  record(channel: InputChannel): void {
    this.tell({ type: 'record', channel })
  }

  stop(): Promise<void> {
    return new Promise((resolve) => {
      this.stopped = resolve
      this.tell({ type: 'stop' })
      setTimeout(resolve, ANSWER_WITHIN_MS)
    })
  }

  close(): void {
    this.onPart = null
    this.node.disconnect()
    this.node.port.close()
  }

  private hear(message: FromCapture): void {
    if (message.type === 'part') this.onPart?.(message.part)
    else if (message.type === 'levels') this.levels = message.levels
    else {
      this.stopped?.()
      this.stopped = null
    }
  }

  private tell(message: ToCapture): void {
    this.node.port.postMessage(message)
  }
}
