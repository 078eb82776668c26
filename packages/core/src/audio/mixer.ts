import { BentReader } from './bentReader.js'
import { fadeGain, panGains } from './levels.js'
import type { PlanVoice, RenderPlan } from './plan.js'
import { rideLevel, ridePan, type MovingGains } from './ride.js'
import { MIX_BLOCK, type SoundPort } from './soundPort.js'

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
  private readonly moving: MovingGains = [new Float32Array(MIX_BLOCK), new Float32Array(MIX_BLOCK), new Float32Array(MIX_BLOCK), new Float32Array(MIX_BLOCK)]
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
    const shaped = this.shape(voice, from, to)
    if (voice.played) {
      const { first, second } = this.bent
      const stereo = this.bent.read(voice, voice.played, from, to, this.port)
      if (this.bent.short) this.misses++
      if (stereo !== null) this.add(entry, first, stereo ? second : null, 0, left, right, into, to - from, shaped, 0, from)
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
      this.add(entry, first, block.channels[1] ?? null, source - block.from, left, right, into + at - from, count, shaped, at - from, at)
      at += count
    }
  }

  /** Fills the gains of `[from, to)` by fades and ride; false when the voice stands at its own level throughout. */
  private shape(voice: PlanVoice, from: number, to: number): boolean {
    const faded = fillFades(voice, from, to, this.envelope)
    if (!voice.levelRide) return faded
    if (!faded) this.envelope.fill(1, 0, to - from)
    rideLevel(voice.levelRide, from, to, this.envelope)
    return true
  }

  /** Adds `count` samples that sound from sample `at` of the reel on. */
  private add(
    entry: Active,
    first: Float32Array,
    second: Float32Array | null,
    read: number,
    left: Float32Array,
    right: Float32Array,
    write: number,
    count: number,
    shaped: boolean,
    shapeAt: number,
    at: number,
  ): void {
    const envelope = shaped ? this.envelope : null
    const { gain, panRide } = entry.voice
    if (panRide) {
      ridePan(panRide, gain, at, at + count, second ? 2 : 1, this.moving)
      addMoving(first, second ?? first, read, this.moving, left, right, write, count, envelope, shapeAt)
    } else if (second) addStereo(first, second, read, entry.stereo, left, right, write, count, envelope, shapeAt)
    else addMono(first, read, entry.mono, left, right, write, count, envelope, shapeAt)
  }
}

function activate(voice: PlanVoice): Active {
  const mono = panGains(voice.pan, 1)
  const stereo = panGains(voice.pan, 2)
  const g = voice.gain
  // Float64 gains in a typed array would be no faster; rounding to float32 stays 150 dB down.
  return { voice, mono: Float32Array.of(mono.ll * g, mono.lr * g), stereo: Float32Array.of(stereo.ll * g, stereo.lr * g, stereo.rl * g, stereo.rr * g) }
}

/** Fills the fade gains of `[from, to)`; false when no fade runs there. */
function fillFades(voice: PlanVoice, from: number, to: number, envelope: Float32Array): boolean {
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

function addMoving(
  sourceL: Float32Array,
  sourceR: Float32Array,
  read: number,
  [ll, lr, rl, rr]: MovingGains,
  left: Float32Array,
  right: Float32Array,
  write: number,
  count: number,
  envelope: Float32Array | null,
  shapeAt: number,
): void {
  for (let i = 0; i < count; i++) {
    const shape = envelope ? (envelope[shapeAt + i] as number) : 1
    const a = (sourceL[read + i] as number) * shape
    const b = (sourceR[read + i] as number) * shape
    left[write + i] = (left[write + i] as number) + a * (ll[i] as number) + b * (rl[i] as number)
    right[write + i] = (right[write + i] as number) + a * (lr[i] as number) + b * (rr[i] as number)
  }
}
