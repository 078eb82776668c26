import { SAMPLE_RATE, standInRoom } from '@yodel/core'

/** Seconds from the stand-in's sound to the input: what a usual interface takes. */
const INPUT_DELAY = 0.018

/**
 * A made device in the place of a microphone: a person in a quiet room, who hears what the loudspeaker plays and acts to it.
 * What it does comes in as late as through a real loudspeaker and a real input, so that placing it right takes the same work.
 */
export class StandIn {
  /** What it gives; connect it to whatever records. */
  readonly out: GainNode
  /** What is played into this is heard by it, as by an open microphone. */
  readonly ear: DelayNode
  private readonly roundTrip: number
  private readonly room: AudioBufferSourceNode
  private readonly acting = new Set<AudioBufferSourceNode>()

  constructor(private readonly context: AudioContext) {
    const loudspeaker = context.outputLatency || context.baseLatency
    this.roundTrip = Math.round((loudspeaker + INPUT_DELAY) * SAMPLE_RATE)
    this.out = new GainNode(context)
    this.ear = new DelayNode(context, { maxDelayTime: 1, delayTime: this.roundTrip / SAMPLE_RATE })
    this.ear.connect(new GainNode(context, { gain: 0.4 })).connect(this.out)
    this.room = this.source(standInRoom())
    this.room.loop = true
    this.room.start()
  }

  /** Acts to what is played at a frame of the audio clock. What lies in the past is not done any more. */
  act(sound: Float32Array<ArrayBuffer>, frame: number): void {
    const at = (frame + this.roundTrip) / SAMPLE_RATE
    if (at < this.context.currentTime) return
    const source = this.source(sound)
    this.acting.add(source)
    source.onended = () => this.acting.delete(source)
    source.start(at)
  }

  /** Does nothing of what it was about to do. */
  rest(): void {
    for (const source of this.acting) source.stop()
    this.acting.clear()
  }

  /** Ends it for good. */
  dispose(): void {
    this.rest()
    this.room.stop()
    this.out.disconnect()
  }

  private source(sound: Float32Array<ArrayBuffer>): AudioBufferSourceNode {
    const buffer = this.context.createBuffer(1, sound.length, SAMPLE_RATE)
    buffer.copyToChannel(sound, 0)
    const source = new AudioBufferSourceNode(this.context, { buffer })
    source.connect(this.out)
    return source
  }
}
