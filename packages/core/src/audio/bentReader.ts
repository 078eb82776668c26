import type { PlanVoice } from './renderPlan.js'
import { SAMPLE_RATE } from '../time/units.js'
import { cutoffOf, reachOf, sourceSpan, topSpeed, valueBetween } from './played.js'
import { type Played } from './renderPlan.js'
import { airFactor, passingAt, warped, type Warp } from './warp.js'
import { MIX_BLOCK, type SoundPort } from '../signal/soundPort.js'

/** Reads voices that are played faster, slower, backwards, or with their sides changed. */
export class BentReader {
  /** What was read, from 0. */
  readonly first = new Float32Array(MIX_BLOCK)
  readonly second = new Float32Array(MIX_BLOCK)
  /** Whether a part of the recording that was needed last was not there. */
  short = false
  /** What the air let through last of voices that go past, and the sample of the reel that comes next. */
  private readonly aired = new WeakMap<PlanVoice, { next: number; heard: number }>()
  private gathered: [Float32Array, Float32Array] = [new Float32Array(0), new Float32Array(0)]

  /** Reads `[from, to)` of the reel. @returns whether it is stereo; null when the recording is not there. */
  read(voice: PlanVoice, played: Played, from: number, to: number, port: SoundPort): boolean | null {
    const begin = voice.offset + from - voice.start
    const [low, high] = sourceSpan(voice, begin, begin + to - from)
    const end = Math.floor((played.recorded - 1) * played.speed) + 1
    const stereo = this.gather(voice.mediaId, low, high, Math.min(high, end), port)
    if (stereo === null) return null
    const { speed, reverse, sides, recorded, warp } = played
    const cutoff = cutoffOf(topSpeed(played))
    const between = speed !== 1 || warp !== undefined
    const [a, b] = this.gathered
    for (let i = 0; i < to - from; i++) {
      const at = warp ? voice.offset + warped(warp, from - voice.start + i) : begin + i
      const place = (reverse ? recorded - 1 - at : at) * speed - low
      const x = between ? valueBetween(a, place, cutoff) : (a[place] as number)
      const y = !stereo ? x : between ? valueBetween(b, place, cutoff) : (b[place] as number)
      this.first[i] = sides === 'kept' ? x : sides === 'swapped' ? y : 0.5 * (x + y)
      this.second[i] = sides === 'kept' ? y : sides === 'swapped' ? x : 0.5 * (x + y)
    }
    if (!warp || warp.speed === 0) return stereo
    this.goPast(voice, warp, from, to, stereo)
    return true
  }

  /** Sets what was read, summed to one source, where the source is: as far away, as much air between, as far aside. */
  private goPast(voice: PlanVoice, warp: Warp, from: number, to: number, stereo: boolean): void {
    const known = this.aired.get(voice)
    let heard = known?.next === from ? known.heard : null
    for (let i = 0; i < to - from; i++) {
      const since = from + i - voice.start - warp.sync
      const { away, aside } = passingAt(warp.speed, warp.distance, since / SAMPLE_RATE)
      const [x, y] = [this.first[i] as number, this.second[i] as number]
      const source = (stereo ? 0.5 * (x + y) : x) * (warp.distance / away)
      heard = heard === null ? source : heard + airFactor(away) * (source - heard)
      const angle = (aside / away + 1) * (Math.PI / 4)
      this.first[i] = heard * Math.cos(angle)
      this.second[i] = heard * Math.sin(angle)
    }
    this.aired.set(voice, { next: to, heard: heard ?? 0 })
  }

  /** Copies `[low, high)` of a recording; before its beginning and after its end there is silence, and up to `needed` it must be there. */
  private gather(
    mediaId: string,
    low: number,
    high: number,
    needed: number,
    port: SoundPort,
  ): boolean | null {
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
