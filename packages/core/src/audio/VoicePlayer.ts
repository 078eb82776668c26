import type { Insert } from '../reel/inserts.js'
import { kernelFloats, kernels, KernelSamples } from '../kernels/kernels.js'
import { Bus } from '../treatment/bus.js'
import { Chain } from '../treatment/Chain.js'
import { foldedRoom, type RoomPort } from '../treatment/rooms.js'
import { BentReader } from './bentReader.js'
import { fadeGain } from '../signal/levels.js'
import type { PlanVoice } from './renderPlan.js'
import { MIX_BLOCK, type SoundPort } from '../signal/soundPort.js'

/** A sound's own treatment at work. */
interface Treated {
  readonly bus: Bus
  readonly chain: Chain
  /** What the chain is set to. */
  set: readonly Insert[] | null
}

/** Plays the voices of one strip, each with its own gain and fades; nothing is allocated while it plays but for a view of what a voice plays, for lists that grow to the most voices at once, and what a sound with treatment of its own needs when it begins. */
export class VoicePlayer {
  /** Blocks of a voice for which the port had no sound. */
  misses = 0
  private next = 0
  private position = 0
  private readonly active: PlanVoice[] = []
  private readonly envelope = new Float32Array(MIX_BLOCK)
  private readonly bent = new BentReader()

  /** Sounds with treatment of their own, by their keys, that sound or have sounded. */
  private readonly treated = new Map<string, Treated>()

  /** @param rooms - Where treatment of sounds gets its rooms from; made on the spot when not given */
  constructor(
    private voices: readonly PlanVoice[],
    private readonly port: SoundPort,
    private readonly rooms: RoomPort = foldedRoom,
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

  /** Forgets what sounds in the treatment of sounds. */
  reset(): void {
    this.treated.clear()
  }

  /** Goes to a sample of the reel. */
  seek(position: number): void {
    this.position = position
    this.active.length = 0
    this.next = 0
    while (this.next < this.voices.length && (this.voices[this.next] as PlanVoice).start < position) {
      const voice = this.voices[this.next++] as PlanVoice
      if (voice.end > position || this.rings(voice, position)) this.active.push(voice)
    }
    if (this.treated.size === 0) return
    const sounding = new Set(this.active.map(({ key }) => key))
    for (const key of [...this.treated.keys()]) if (!sounding.has(key)) this.treated.delete(key)
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
      if (voice.inserts) this.addTreated(voice, from, to, bus, count)
      else if (to > from) this.add(voice, from, to, bus, count)
      if (voice.end > end || this.rings(voice, end)) this.active[kept++] = voice
      else if (voice.key !== undefined) this.treated.delete(voice.key)
    }
    this.active.length = kept
    this.position = end
  }

  /** Says whether a sound that has ended is still heard in its treatment. */
  private rings({ key, end }: PlanVoice, position: number): boolean {
    const treated = key === undefined ? undefined : this.treated.get(key)
    return treated !== undefined && position < end + treated.chain.tailLength + MIX_BLOCK
  }

  /** Plays a sound through its own treatment, of which the rest is heard after it has ended. */
  private addTreated(voice: PlanVoice, from: number, to: number, bus: Bus, count: number): void {
    const key = voice.key ?? ''
    let treated = this.treated.get(key)
    if (!treated)
      this.treated.set(key, (treated = { bus: new Bus(), chain: new Chain(this.rooms), set: null }))
    const { bus: own, chain } = treated
    if (treated.set !== voice.inserts) chain.set((treated.set = voice.inserts ?? []))
    own.clear()
    if (to > from) this.add(voice, from, to, own, count)
    chain.process(own, count, this.position)
    if (own.hasMono) {
      bus.wakeMono(count)
      kernels().addSound(bus.inMono.at, own.inMono.at, count, 1)
    }
    if (own.hasStereo) {
      bus.wakeStereo(count)
      kernels().addSound(bus.inLeft.at, own.inLeft.at, count, 1)
      kernels().addSound(bus.inRight.at, own.inRight.at, count, 1)
    }
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
    addSide(bus.inLeft, gain, first, read, write, length, envelope, shapeAt)
    addSide(bus.inRight, gain, second, read, write, length, envelope, shapeAt)
  } else {
    bus.wakeMono(count)
    addSide(bus.inMono, gain, first, read, write, length, envelope, shapeAt)
  }
}

let coming: KernelSamples | null = null

function addSide(
  into: KernelSamples,
  gain: number,
  source: Float32Array,
  read: number,
  write: number,
  length: number,
  envelope: Float32Array | null,
  shapeAt: number,
): void {
  if (!envelope) {
    coming ??= new KernelSamples(MIX_BLOCK)
    kernelFloats().set(source.subarray(read, read + length), coming.at >> 2)
    kernels().addSound(into.at + 4 * write, coming.at, length, gain)
    return
  }
  const { samples } = into
  for (let i = 0; i < length; i++)
    samples[write + i] =
      (samples[write + i] as number) + (source[read + i] as number) * (envelope[shapeAt + i] as number) * gain
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
