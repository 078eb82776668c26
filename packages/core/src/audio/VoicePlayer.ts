import type { Bus } from '../treatment/bus.js'
import { BentReader } from './bentReader.js'
import { fadeGain } from '../signal/levels.js'
import type { PlanVoice } from './renderPlan.js'
import { MIX_BLOCK, type SoundPort } from '../signal/soundPort.js'

/** Plays the voices of one strip, each with its own gain and fades; nothing is allocated while it plays but for lists that grow to the most voices at once. */
export class VoicePlayer {
  /** Blocks of a voice for which the port had no sound. */
  misses = 0
  private next = 0
  private position = 0
  private readonly active: PlanVoice[] = []
  private readonly envelope = new Float32Array(MIX_BLOCK)
  private readonly bent = new BentReader()

  constructor(
    private voices: readonly PlanVoice[],
    private readonly port: SoundPort,
  ) {}

  /** Sample of the reel that comes next. */
  get at(): number {
    return this.position
  }

  /** Replaces the voices; what sounds in both goes on without a gap. */
  set(voices: readonly PlanVoice[]): void {
    if (voices === this.voices) return
    this.voices = voices
    this.seek(this.position)
  }

  /** Goes to a sample of the reel. */
  seek(position: number): void {
    this.position = position
    this.active.length = 0
    this.next = 0
    while (this.next < this.voices.length && (this.voices[this.next] as PlanVoice).start < position) {
      const voice = this.voices[this.next++] as PlanVoice
      if (voice.end > position) this.active.push(voice)
    }
  }

  /** Adds the next `count` samples to a bus, at most {@link MIX_BLOCK}. */
  play(bus: Bus, count: number): void {
    const end = this.position + count
    while (this.next < this.voices.length && (this.voices[this.next] as PlanVoice).start < end)
      this.active.push(this.voices[this.next++] as PlanVoice)
    let kept = 0
    for (let index = 0; index < this.active.length; index++) {
      const voice = this.active[index] as PlanVoice
      const from = Math.max(this.position, voice.start)
      const to = Math.min(end, voice.end)
      if (to > from) this.add(voice, from, to, bus, count)
      if (voice.end > end) this.active[kept++] = voice
    }
    this.active.length = kept
    this.position = end
  }

  private add(voice: PlanVoice, from: number, to: number, bus: Bus, count: number): void {
    const into = from - this.position
    const envelope = fillFades(voice, from, to, this.envelope) ? this.envelope : null
    if (voice.played) {
      const { first, second } = this.bent
      const stereo = this.bent.read(voice, voice.played, from, to, this.port)
      if (this.bent.short) this.misses++
      if (stereo !== null)
        addTo(bus, count, voice.gain, first, stereo ? second : null, 0, into, to - from, envelope, 0)
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
      const length = Math.min(to - at, available)
      addTo(
        bus,
        count,
        voice.gain,
        first,
        block.channels[1] ?? null,
        source - block.from,
        into + at - from,
        length,
        envelope,
        at - from,
      )
      at += length
    }
  }
}

function addTo(
  bus: Bus,
  count: number,
  gain: number,
  first: Float32Array,
  second: Float32Array | null,
  read: number,
  write: number,
  length: number,
  envelope: Float32Array | null,
  shapeAt: number,
): void {
  if (second) {
    bus.wakeStereo(count)
    addSide(bus.left, gain, first, read, write, length, envelope, shapeAt)
    addSide(bus.right, gain, second, read, write, length, envelope, shapeAt)
  } else {
    bus.wakeMono(count)
    addSide(bus.mono, gain, first, read, write, length, envelope, shapeAt)
  }
}

function addSide(
  into: Float32Array,
  gain: number,
  source: Float32Array,
  read: number,
  write: number,
  length: number,
  envelope: Float32Array | null,
  shapeAt: number,
): void {
  if (envelope)
    for (let i = 0; i < length; i++)
      into[write + i] =
        (into[write + i] as number) + (source[read + i] as number) * (envelope[shapeAt + i] as number) * gain
  else
    for (let i = 0; i < length; i++)
      into[write + i] = (into[write + i] as number) + (source[read + i] as number) * gain
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
