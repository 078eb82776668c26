import { ok, refuse, type Result } from '../../errors.js'
import { framesToSeconds, frameToSample } from '../../time/convert.js'
import type { FrameRate } from '../../time/rates.js'
import { parseTimecode } from '../../time/timecode.js'
import { frames } from '../../time/units.js'
import type { FadeShape } from '../../reel/records.js'

import { dbFromGain, fadeGain } from '../../signal/levels.js'
import { asPath } from './asPath.js'
import { readPlayedWords } from '../playedWords.js'
import { PLAIN_CLIP, plainTrack, type ReadClip, type ReadList } from './readList.js'

/**
 * Reads an Audio Decision List (AES31-3, from memory) of the reel's own rate: cuts with their fades and gain.
 *
 * @param rate - In which its times are counted.
 * @returns A refusal `CORE_NOT_ADL` with the line that can't be read.
 */
export function readAdl(source: string, rate: FrameRate): Result<ReadList> {
  const lines = source.split(/\r\n|\r|\n/)
  if (!lines.some((line) => line.trim() === '<ADL>')) return refuse('CORE_NOT_ADL', 'file', 'it has no <ADL>')
  const reader = new AdlReader(rate)
  for (const [index, line] of lines.entries()) {
    const problem = reader.take(line.trim())
    if (problem !== null) return refuse('CORE_NOT_ADL', `line ${index + 1}`, problem)
  }
  return ok(reader.list())
}

class AdlReader {
  private title = ''
  /** Frame of the day at which its programme begins. */
  private begins = 0
  private readonly tracks: string[] = []
  private readonly sources = new Map<
    string,
    { file: string; sha256: string; fileLength: number | null; first: number }
  >()
  private readonly clips: ReadClip[] = []
  private readonly left = new Set<string>()
  /** Points of the faders, by the number of the track. */
  private readonly levels = new Map<number, number[]>()

  constructor(private readonly rate: FrameRate) {}

  /** Takes a line. @returns what is wrong with it, or null */
  take(line: string): string | null {
    const [word = '', ...fields] = line.split('\t').map((field) => field.trim())
    const plain = fields.map((field) => field.replace(/^"(.*)"$/, '$1'))
    switch (word) {
      case '(PROJ_TITLE)':
        this.title = plain[0] ?? ''
        return null
      case '(SEQ_DEST_START)':
        return this.with([plain[0]], ([begins]) => (this.begins = begins?.frame ?? 0))
      case '(Track)':
        this.tracks.push(plain[1] ?? '')
        return null
      case '(Index)': {
        const [number = '', , url = '', sha256 = '', first, length] = plain
        const file = asPath(url.replace(/^URL:file:\/\/localhost\//, ''))
        return this.with([first, length], ([at, long]) => {
          const fileLength = length ? this.sample(long) : null
          this.sources.set(number, { file, sha256, fileLength, first: this.sample(at) })
        })
      }
      case '(Entry)':
        return this.entry(plain)
      case '(Infade)':
      case '(Outfade)':
        return this.fade(word, plain)
      case '(Gain)':
        return this.change({ gain: Number(plain[2]) })
      case '(SEQ_FRAME_RATE)': {
        const stated = Number(plain[0])
        const counted = this.rate.num / this.rate.den
        if (stated > 0 && Math.abs(stated - counted) > 0.01)
          this.left.add(
            `the rate: it says that it counts ${stated} frames a second and was read at ${this.rate.label}`,
          )
        return null
      }
      case '(Rem)':
        return plain[0] === 'NAME'
          ? this.change({ name: plain[1] ?? '' })
          : this.change(readPlayedWords(plain[0] ?? ''))
      case '(FP)':
        this.levels.set(trackOf(plain[0]), [...(this.levels.get(trackOf(plain[0])) ?? []), Number(plain[2])])
        return null
      default:
        return null
    }
  }

  list(): ReadList {
    const tracks = this.tracks.map((name, index) => {
      const [level = 0, ...more] = this.levels.get(index) ?? []
      if (more.length > 0) this.left.add(`rides of ${name || `track ${index + 1}`}`)
      // One point alone is where the fader stands.
      return { ...plainTrack(name), level: more.length > 0 ? 0 : level }
    })
    return {
      ...{ title: this.title, tracks, clips: this.clips, markers: [] },
      ...{ begins: framesToSeconds(this.begins, this.rate), left: [...this.left] },
    }
  }

  private entry(fields: readonly string[]): string | null {
    const [, , , number = '', , channels = '', ...times] = fields
    const source = this.sources.get(number)
    if (!source) return `there is no source ${number}`
    return this.with(times.slice(0, 3), ([first, begin, end]) => {
      const start = this.sample(begin, this.begins)
      this.clips.push({
        ...PLAIN_CLIP,
        ...{
          track: trackOf(channels),
          name: '',
          file: source.file,
          sha256: source.sha256,
          fileLength: source.fileLength,
        },
        ...{
          start,
          length: this.sample(end, this.begins) - start,
          offset: this.sample(first) - source.first,
        },
      })
    })
  }

  private fade(
    word: '(Infade)' | '(Outfade)',
    [length, kind = '', ...levels]: readonly string[],
  ): string | null {
    const shape = kind === 'LIN' ? 'linear' : shapeOf(Number(levels[1]))
    return this.with([length], ([time]) => {
      const samples = this.sample(time)
      const fadesIn = word === '(Infade)'
      this.change(
        fadesIn ? { fadeIn: samples, fadeInShape: shape } : { fadeOut: samples, fadeOutShape: shape },
      )
    })
  }

  private change(fields: Partial<ReadClip>): null {
    const last = this.clips.pop()
    if (last) this.clips.push({ ...last, ...fields })
    return null
  }

  /** The sample of a time, counted from a frame: frames are not all of a whole number of samples, so they are counted first. */
  private sample(time: AdlTime | undefined, from = 0): number {
    return time ? frameToSample(frames(time.frame - from), this.rate) + time.rest : 0
  }

  /** Reads times and does something with them. @returns what is wrong with one, or null */
  private with(times: readonly (string | undefined)[], act: (read: AdlTime[]) => unknown): string | null {
    const read: AdlTime[] = []
    for (const time of times) {
      const [timecode = '', rest = '0'] = (time ?? '').split('/')
      const parsed = parseTimecode(timecode.replace(/[|.=;]/g, ':'), this.rate)
      if (!parsed.ok) return parsed.message
      read.push({ frame: parsed.frame, rest: Number(rest) })
    }
    act(read)
    return null
  }
}

/** A time: a frame, and samples since its first. */
interface AdlTime {
  readonly frame: number
  readonly rest: number
}

/** Number of a track, from 0, by the channels that it goes to: two each. */
const trackOf = (channels = ''): number => (Number.parseInt(channels, 10) - 1) >> 1

/** The shape of a fade whose level half way is nearest to a number of decibels. */
function shapeOf(half: number): FadeShape {
  const off = (shape: FadeShape): number => Math.abs(dbFromGain(fadeGain(shape, 0.5)) - half)
  return off('power') < off('s') ? 'power' : 's'
}
