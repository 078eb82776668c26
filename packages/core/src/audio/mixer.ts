import { fadeGain, panGains } from './levels.js'
import type { PlanVoice, RenderPlan } from './plan.js'
import { cutoffOf, reachOf, sourceSpan, valueBetween, type Played } from './played.js'

/** Decoded sound at 48 kHz: one array (mono) or two (left, right), with the first sample's place in the recording. */
export interface SoundBlock {
  readonly from: number
  readonly channels: readonly [Float32Array] | readonly [Float32Array, Float32Array]
}

/**
 * Where the mixer gets decoded samples from. Must answer at once.
 *
 * @param at - Sample of the recording that is wanted next.
 * @returns A block that holds `at` (it may end early; the mixer asks again), or null when it is not there:
 *   the mixer then leaves silence up to the next multiple of its block and counts a miss.
 */
export type SoundPort = (mediaId: string, at: number) => SoundBlock | null

/** Longest stretch mixed at once, in samples; bounds the size of scratch memory. */
export const MIX_BLOCK = 1024

interface Active {
  readonly voice: PlanVoice
  mono: Float32Array
  stereo: Float32Array
}

/**
 * Renders a plan. The same code plays in the browser's audio thread and bounces on the server.
 * Nothing is allocated while rendering but for lists that grow to the largest number of voices at once.
 */
export class Mixer {
  /** Blocks of a voice for which the port had no sound. */
  misses = 0
  private voices: readonly PlanVoice[]
  private next = 0
  private position = 0
  private readonly active: Active[] = []
  private readonly envelope = new Float32Array(MIX_BLOCK)
  private readonly bent = new BentReader()

  constructor(
    plan: RenderPlan,
    private readonly port: SoundPort,
  ) {
    this.voices = plan.voices
  }

  /** Replaces the plan; what sounds in both goes on without a gap. */
  setPlan(plan: RenderPlan): void {
    this.voices = plan.voices
    this.seek(this.position)
  }

  /** Sets the sample of the reel from which the next call renders. */
  seek(position: number): void {
    this.position = position
    this.active.length = 0
    this.next = 0
    while (this.next < this.voices.length && (this.voices[this.next] as PlanVoice).start < position) {
      const voice = this.voices[this.next++] as PlanVoice
      if (voice.end > position) this.active.push(activate(voice))
    }
  }

  /** Sample of the reel that the next call renders first. */
  get at(): number {
    return this.position
  }

  /**
   * Renders the next `length` samples into `left` and `right` at `into`, replacing what is there.
   *
   * @param length - Samples, 0 or more; longer than {@link MIX_BLOCK} is done in pieces.
   */
  render(left: Float32Array, right: Float32Array, into: number, length: number): void {
    left.fill(0, into, into + length)
    right.fill(0, into, into + length)
    for (let done = 0; done < length;) {
      const count = Math.min(MIX_BLOCK, length - done)
      this.renderBlock(left, right, into + done, count)
      done += count
    }
  }

  private renderBlock(left: Float32Array, right: Float32Array, into: number, count: number): void {
    const end = this.position + count
    while (this.next < this.voices.length && (this.voices[this.next] as PlanVoice).start < end) {
      this.active.push(activate(this.voices[this.next++] as PlanVoice))
    }
    let kept = 0
    for (let index = 0; index < this.active.length; index++) {
      const entry = this.active[index] as Active
      const from = Math.max(this.position, entry.voice.start)
      const to = Math.min(end, entry.voice.end)
      if (to > from) this.addVoice(entry, from, to, left, right, into + from - this.position)
      if (entry.voice.end > end) this.active[kept++] = entry
    }
    this.active.length = kept
    this.position = end
  }

  private addVoice(entry: Active, from: number, to: number, left: Float32Array, right: Float32Array, into: number): void {
    const { voice } = entry
    const shaped = fillEnvelope(voice, from, to, this.envelope)
    if (voice.played) {
      const { first, second } = this.bent
      const stereo = this.bent.read(voice, voice.played, from, to, this.port)
      if (this.bent.short) this.misses++
      if (stereo === null) return
      if (stereo) addStereo(first, second, 0, entry.stereo, left, right, into, to - from, shaped ? this.envelope : null, 0)
      else addMono(first, 0, entry.mono, left, right, into, to - from, shaped ? this.envelope : null, 0)
      return
    }
    for (let at = from; at < to;) {
      const source = voice.offset + at - voice.start
      const block = this.port(voice.mediaId, source)
      const first = block ? block.channels[0] : null
      const available = block && first ? block.from + first.length - source : 0
      if (!block || !first || available <= 0) {
        this.misses++
        return
      }
      const count = Math.min(to - at, available)
      const read = source - block.from
      const write = into + at - from
      const second = block.channels[1]
      if (second) addStereo(first, second, read, entry.stereo, left, right, write, count, shaped ? this.envelope : null, at - from)
      else addMono(first, read, entry.mono, left, right, write, count, shaped ? this.envelope : null, at - from)
      at += count
    }
  }
}

/** Reads voices that are played faster, slower, backwards, or with their sides changed. */
class BentReader {
  /** What was read, from 0. */
  readonly first = new Float32Array(MIX_BLOCK)
  readonly second = new Float32Array(MIX_BLOCK)
  /** Whether a part of the recording that was needed last was not there. */
  short = false
  private gathered: [Float32Array, Float32Array] = [new Float32Array(0), new Float32Array(0)]

  /** Reads `[from, to)` of the reel. @returns whether it is stereo; null when the recording is not there. */
  read(voice: PlanVoice, played: Played, from: number, to: number, port: SoundPort): boolean | null {
    const begin = voice.offset + from - voice.start
    const [low, high] = sourceSpan(voice, begin, begin + to - from)
    const end = Math.floor((played.recorded - 1) * played.speed) + 1
    const stereo = this.gather(voice.mediaId, low, high, Math.min(high, end), port)
    if (stereo === null) return null
    const { speed, reverse, sides, recorded } = played
    const cutoff = cutoffOf(speed)
    const [a, b] = this.gathered
    for (let i = 0; i < to - from; i++) {
      const place = (reverse ? recorded - 1 - begin - i : begin + i) * speed - low
      const x = speed === 1 ? (a[place] as number) : valueBetween(a, place, cutoff)
      const y = !stereo ? x : speed === 1 ? (b[place] as number) : valueBetween(b, place, cutoff)
      this.first[i] = sides === 'kept' ? x : sides === 'swapped' ? y : 0.5 * (x + y)
      this.second[i] = sides === 'kept' ? y : sides === 'swapped' ? x : 0.5 * (x + y)
    }
    return stereo
  }

  /** Copies `[low, high)` of a recording; before its beginning and after its end there is silence, and up to `needed` it must be there. */
  private gather(mediaId: string, low: number, high: number, needed: number, port: SoundPort): boolean | null {
    if (this.gathered[0].length < high - low) {
      const size = Math.max(high - low, MIX_BLOCK * 4 + 2 * reachOf(4))
      this.gathered = [new Float32Array(size), new Float32Array(size)]
    }
    const [a, b] = this.gathered
    a.fill(0, 0, high - low)
    b.fill(0, 0, high - low)
    let stereo: boolean | null = null
    let at = Math.max(0, low)
    while (at < high) {
      const block = port(mediaId, at)
      const available = block ? block.from + block.channels[0].length - at : 0
      if (!block || available <= 0) break
      const count = Math.min(high - at, available)
      const read = at - block.from
      a.set(block.channels[0].subarray(read, read + count), at - low)
      const second = block.channels[1]
      stereo = second !== undefined
      if (second) b.set(second.subarray(read, read + count), at - low)
      at += count
    }
    this.short = at < needed
    return stereo
  }
}

function activate(voice: PlanVoice): Active {
  const mono = panGains(voice.pan, 1)
  const stereo = panGains(voice.pan, 2)
  const g = voice.gain
  // Float64 gains in a typed array would be no faster; rounding to float32 stays 150 dB down.
  return { voice, mono: Float32Array.of(mono.ll * g, mono.lr * g), stereo: Float32Array.of(stereo.ll * g, stereo.lr * g, stereo.rl * g, stereo.rr * g) }
}

/** Fills the fade gains of `[from, to)`; false when the voice stands at full level throughout. */
function fillEnvelope(voice: PlanVoice, from: number, to: number, envelope: Float32Array): boolean {
  const inEnd = voice.start + voice.fadeIn
  const outStart = voice.end - voice.fadeOut
  if (from >= inEnd && to <= outStart) return false
  for (let at = from; at < to; at++) {
    let gain = 1
    if (at < inEnd) gain *= fadeGain(voice.fadeInShape, (at - voice.start) / voice.fadeIn)
    if (at > outStart) gain *= fadeGain(voice.fadeOutShape, (voice.end - at) / voice.fadeOut)
    envelope[at - from] = gain
  }
  return true
}

function addMono(
  source: Float32Array,
  read: number,
  gains: Float32Array,
  left: Float32Array,
  right: Float32Array,
  write: number,
  count: number,
  envelope: Float32Array | null,
  shapeAt: number,
): void {
  const toLeft = gains[0] as number
  const toRight = gains[1] as number
  if (envelope) {
    for (let i = 0; i < count; i++) {
      const value = (source[read + i] as number) * (envelope[shapeAt + i] as number)
      left[write + i] = (left[write + i] as number) + value * toLeft
      right[write + i] = (right[write + i] as number) + value * toRight
    }
    return
  }
  for (let i = 0; i < count; i++) {
    const value = source[read + i] as number
    left[write + i] = (left[write + i] as number) + value * toLeft
    right[write + i] = (right[write + i] as number) + value * toRight
  }
}

function addStereo(
  sourceL: Float32Array,
  sourceR: Float32Array,
  read: number,
  gains: Float32Array,
  left: Float32Array,
  right: Float32Array,
  write: number,
  count: number,
  envelope: Float32Array | null,
  shapeAt: number,
): void {
  const ll = gains[0] as number
  const lr = gains[1] as number
  const rl = gains[2] as number
  const rr = gains[3] as number
  for (let i = 0; i < count; i++) {
    const shape = envelope ? (envelope[shapeAt + i] as number) : 1
    const a = (sourceL[read + i] as number) * shape
    const b = (sourceR[read + i] as number) * shape
    left[write + i] = (left[write + i] as number) + a * ll + b * rl
    right[write + i] = (right[write + i] as number) + a * lr + b * rr
  }
}
