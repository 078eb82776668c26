import { gainFromDb, PCM_CHUNK, SAMPLE_RATE, type Pool } from '@yodel/core'
import { fetchPcm } from '../engine/pcm.js'

/** The most of a recording that is held ready, in samples: what is hit is short. */
const MOST = 20 * SAMPLE_RATE
/** Seconds in which a sound ends whose key was let go. */
const RELEASE_S = 0.03

/** A part of a recording that a key plays. */
interface Part {
  readonly mediaId: string
  readonly from: number
  readonly to: number
}

const keyOf = ({ mediaId, from, to }: Part): string => `${mediaId} ${from} ${to}`

/** Plays what is hit at once, beside the reel: everything lies ready in the audio thread before a key goes down. */
export class HitPlayer {
  private context: AudioContext | null = null
  private closed = false
  private readonly ready = new Map<string, AudioBuffer | null>()

  /** @param refuse - Told in words what could not be made ready */
  constructor(private readonly refuse: (text: string) => void) {}

  /** Makes everything ready that pools may play, and lets go of the rest. */
  async load(pools: readonly Pool[], lengthOf: (soundId: string) => number | undefined): Promise<void> {
    const parts = pools.flatMap(({ members }) =>
      members.flatMap(({ soundId, part }) => {
        const length = lengthOf(soundId)
        return length === undefined ? [] : [partOf(soundId, part, length)]
      }),
    )
    const wanted = new Set(parts.map(keyOf))
    for (const key of this.ready.keys()) if (!wanted.has(key)) this.ready.delete(key)
    for (const part of parts) {
      if (this.closed) return
      if (this.ready.has(keyOf(part))) continue
      this.ready.set(keyOf(part), null)
      await this.fetch(part).catch((error: unknown) => {
        this.ready.delete(keyOf(part))
        this.refuse(error instanceof Error ? error.message : String(error))
      })
    }
  }

  /**
   * Plays a part at once.
   *
   * @returns The way to end it, or null where it is not ready yet
   */
  play(
    soundId: string,
    part: Pool['members'][number]['part'],
    length: number,
    as: { gain: number; speed: number },
  ) {
    const buffer = this.ready.get(keyOf(partOf(soundId, part, length)))
    if (!buffer) return null
    const context = this.audio()
    const source = new AudioBufferSourceNode(context, { buffer, playbackRate: as.speed })
    const level = new GainNode(context, { gain: gainFromDb(as.gain) })
    source.connect(level).connect(context.destination)
    source.start()
    return (): void => {
      level.gain.setTargetAtTime(0, context.currentTime, RELEASE_S / 4)
      source.stop(context.currentTime + RELEASE_S * 2)
    }
  }

  /** Gives the loudspeaker back. */
  dispose(): void {
    this.closed = true
    this.ready.clear()
    void this.context?.close()
    this.context = null
  }

  private audio(): AudioContext {
    // As soon as the machine can: what plays here is ready and light, and a hand hears ten milliseconds.
    this.context ??= new AudioContext({ latencyHint: 0, sampleRate: SAMPLE_RATE })
    if (this.context.state === 'suspended') void this.context.resume()
    return this.context
  }

  private async fetch(part: Part): Promise<void> {
    const { mediaId, from, to } = part
    const first = Math.floor(from / PCM_CHUNK)
    const last = Math.floor((to - 1) / PCM_CHUNK)
    let buffer: AudioBuffer | null = null
    for (let index = first; index <= last; index++) {
      const channels = await fetchPcm(mediaId, index)
      if (this.closed) return
      buffer ??= this.audio().createBuffer(channels.length, to - from, SAMPLE_RATE)
      const at = index * PCM_CHUNK - from
      channels.forEach((samples, channel) => {
        const usable = samples.subarray(Math.max(0, -at), Math.max(0, to - index * PCM_CHUNK))
        buffer?.copyToChannel(new Float32Array(usable), channel, Math.max(0, at))
      })
    }
    this.ready.set(keyOf(part), buffer)
  }
}

function partOf(mediaId: string, part: Pool['members'][number]['part'], length: number): Part {
  const { from, to } = part ?? { from: 0, to: length }
  const end = Math.min(to, length)
  const begin = Math.min(from, end - 1)
  return { mediaId, from: Math.max(0, begin), to: Math.min(end, begin + MOST) }
}
