import { addAt, between, panned, seeded, silence, type Random, type Voice } from '../dsp.js'

/** What a making gives: one (mono) or two channels, and where its separate events begin. */
export interface Made {
  readonly channels: Float32Array[]
  /** Seconds at which each event, by itself, first reaches a tenth of its own highest value; empty for a bed without events; absent where it is a matter of taste what one is, as of a train that passes. */
  readonly onsets?: readonly number[]
}

/** A recording of the demo's shelves: how it is named and filed, and how it is made. */
export interface DemoRecording {
  readonly shelf: string
  /** Path within the shelf, without ending. */
  readonly file: string
  readonly format: 'wav16' | 'wav24' | 'flac' | 'ogg' | 'mp3'
  readonly rate: 44_100 | 48_000 | 96_000
  readonly name: string
  readonly description: string
  readonly keywords: string
  readonly category: string
  readonly licence: string
  /** Highest sample in dBFS. */
  readonly peak: number
  readonly make: (rate: number) => Made
}

/** Makes a recording at a sample rate. */
export type Making = (rate: number, random: Random) => Made

const FORMATS = ['wav24', 'wav16', 'flac', 'wav24', 'ogg', 'wav16', 'wav24', 'mp3'] as const
const RATES = [48_000, 48_000, 44_100, 96_000, 48_000, 48_000, 44_100, 48_000] as const

/** A single recording, with the moment of quiet that recordings begin with. */
export const mono =
  (voice: Voice): Making =>
  (rate, random) => {
    const lead = between(random, 0.04, 0.25)
    const sound = voice(rate, random)
    const out = silence(lead + sound.length / rate, rate)
    addAt(out, sound, lead, rate)
    return { channels: [out], onsets: [lead + attackOf(sound, rate)] }
  }

/** Two unlike makings of the same ambience, left and right. */
export const wide =
  (voice: Voice): Making =>
  (rate, random) => ({ channels: [voice(rate, random), voice(rate, random)], onsets: [] })

/** The same for what rolls by: a bed of many hits, more or less covered. */
export const rolling =
  (voice: Voice): Making =>
  (rate, random) => ({ channels: [voice(rate, random), voice(rate, random)] })

/** Passes from one side to the other while it sounds. */
export const passing =
  (voice: Voice, from: number, to: number): Making =>
  (rate, random) => {
    const sound = voice(rate, random)
    const time = sound.length / rate
    return { channels: panned(sound, rate, (t) => from + ((to - from) * t) / time) }
  }

/** A row of single events with pauses, as they are recorded. */
export const row =
  (voice: Voice, count: number, gap: readonly [number, number]): Making =>
  (rate, random) => {
    const times: number[] = []
    for (let i = 0, at = 0.3; i < count; i++, at += between(random, ...gap)) times.push(at)
    const out = silence((times.at(-1) ?? 0) + gap[1] + 0.4, rate)
    const onsets = times.map((time) => {
      const sound = voice(rate, random)
      addAt(out, sound, time, rate, between(random, 0.7, 1))
      return time + attackOf(sound, rate)
    })
    return { channels: [out], onsets }
  }

function attackOf(sound: Float32Array, rate: number): number {
  const top = sound.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
  return sound.findIndex((value) => Math.abs(value) >= top / 10) / rate
}

let made = 0

/** Begins to count recordings anew: their number seeds them, so that every run makes the same. */
export function countAnew(): void {
  made = 0
}

/** One recording of the catalogue. @param code - Category code that its file name begins with. @param peak - dBFS. */
export function entry(
  shelf: string,
  code: string,
  name: string,
  description: string,
  keywords: string,
  category: string,
  making: Making,
  peak = -6,
): DemoRecording {
  const index = made++
  // Deep bodies and beds want their full depth; the rest takes turns through the formats a disk really holds.
  const format = FORMATS[index % FORMATS.length] ?? 'wav24'
  const file = `${code}_${name.replace(/[^A-Za-z0-9]+/g, '')}_${String(index + 1).padStart(3, '0')}`
  // Beds gain nothing from a high rate but size.
  const bed = category === 'Weather' || category === 'Rooms' || category === 'Tones'
  const rate = bed || format === 'ogg' || format === 'mp3' ? 48_000 : (RATES[index % RATES.length] ?? 48_000)
  const licence = index % 3 === 0 ? 'CC0 1.0' : 'Quillfeather house library'
  return {
    shelf,
    file,
    format,
    rate,
    name,
    description,
    keywords,
    category,
    licence,
    peak,
    make: (sampleRate) => making(sampleRate, seeded(7919 * (index + 1))),
  }
}

/** As many of a kind as are asked for, numbered from 1. */
export const sets = <T>(count: number, make: (index: number) => T): T[] =>
  Array.from({ length: count }, (_, index) => make(index + 1))
