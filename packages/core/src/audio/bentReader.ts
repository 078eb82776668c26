import type { PlanVoice } from './renderPlan.js'
import { cutoffOf, reachOf, sourceSpan, valueBetween } from './played.js'
import { type Played } from './renderPlan.js'
import { MIX_BLOCK, type SoundPort } from '../signal/soundPort.js'

/** Reads voices that are played faster, slower, backwards, or with their sides changed. */
export class BentReader {
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
