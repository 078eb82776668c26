import { refuse, ok, type Result } from '../errors.js'
import type { Loudness } from '../hearing/loudness.js'

/** The fields of a Broadcast WAV `bext` chunk that Yodel reads and writes (EBU Tech 3285 v2). */
export interface Bext {
  readonly description: string
  readonly originator: string
  readonly originatorReference: string
  /** `yyyy-mm-dd`. */
  readonly date: string
  /** `hh:mm:ss`. */
  readonly time: string
  /** Samples since midnight of the file's first sample. */
  readonly timeReference: number
  readonly codingHistory: string
  /** What was measured of it; makes the chunk one of version 2. */
  readonly loudness?: BextLoudness
}

/** Loudness of a file as its `bext` states it, to a hundredth; what can't be stated is left out of the file. */
export interface BextLoudness extends Loudness {
  /** dBTP. */
  readonly truePeak: number
}

/** What a WAV file to be written holds. */
export interface WavFormat {
  readonly channels: number
  readonly sampleRate: number
  /** 32 stands for floating point. */
  readonly bits: 16 | 24 | 32
  /** Sample frames. */
  readonly length: number
  readonly bext?: Bext
  /** Content of an `iXML` chunk, UTF-8. */
  readonly ixml?: Uint8Array
}

const latin1 = (text: string, size: number): Uint8Array => {
  const bytes = new Uint8Array(size)
  for (let i = 0; i < Math.min(size, text.length); i++) {
    const code = text.charCodeAt(i)
    bytes[i] = code < 256 ? code : 0x3f
  }
  return bytes
}

function bextBytes(bext: Bext): Uint8Array {
  const history = latin1(bext.codingHistory, bext.codingHistory.length + (bext.codingHistory.length % 2))
  const bytes = new Uint8Array(602 + history.length)
  const view = new DataView(bytes.buffer)
  bytes.set(latin1(bext.description, 256), 0)
  bytes.set(latin1(bext.originator, 32), 256)
  bytes.set(latin1(bext.originatorReference, 32), 288)
  bytes.set(latin1(bext.date, 10), 320)
  bytes.set(latin1(bext.time, 8), 330)
  view.setUint32(338, bext.timeReference % 2 ** 32, true)
  view.setUint32(342, Math.floor(bext.timeReference / 2 ** 32), true)
  view.setUint16(346, bext.loudness ? 2 : 1, true)
  for (const [index, field] of LOUDNESS_FIELDS.entries())
    if (bext.loudness) view.setInt16(LOUDNESS_AT + 2 * index, hundredths(bext.loudness[field]), true)
  bytes.set(history, 602)
  return bytes
}

/** EBU Tech 3285 v2, 2.4: five numbers in hundredths, in this order, after the 64 bytes of the UMID. */
const LOUDNESS_FIELDS = ['integrated', 'range', 'truePeak', 'momentary', 'shortTerm'] as const
const LOUDNESS_AT = 412
/** What a field holds that is not known (the same, 2.4: any value outside its range). */
const UNKNOWN = 0x7fff

const hundredths = (value: number): number => (Math.abs(value) < 99.995 ? Math.round(value * 100) : UNKNOWN)

/**
 * The bytes that stand before the samples of a WAV file; files beyond 4 GB become RF64 (EBU Tech 3306).
 * After the samples comes one zero byte when their number of bytes is odd.
 */
export function wavHeader(format: WavFormat): Uint8Array {
  const frameBytes = (format.channels * format.bits) / 8
  const dataBytes = format.length * frameBytes
  const bext = format.bext ? bextBytes(format.bext) : new Uint8Array(0)
  // Room for ds64 is always kept, as JUNK in a small file, so that the layout does not depend on the size.
  const ixml = format.ixml ?? new Uint8Array(0)
  const size =
    12 +
    36 +
    (bext.length ? 8 + bext.length : 0) +
    (ixml.length ? 8 + ixml.length + (ixml.length % 2) : 0) +
    24 +
    8
  const riffSize = size - 8 + dataBytes + (dataBytes % 2)
  const large = riffSize > 0xffffffff
  const bytes = new Uint8Array(size)
  const view = new DataView(bytes.buffer)
  let at = 0
  const tag = (text: string): void => {
    bytes.set(latin1(text, 4), at)
    at += 4
  }
  const u32 = (value: number): void => {
    view.setUint32(at, value, true)
    at += 4
  }
  const u64 = (value: number): void => {
    u32(value % 2 ** 32)
    u32(Math.floor(value / 2 ** 32))
  }
  tag(large ? 'RF64' : 'RIFF')
  u32(large ? 0xffffffff : riffSize)
  tag('WAVE')
  tag(large ? 'ds64' : 'JUNK')
  u32(28)
  u64(large ? riffSize : 0)
  u64(large ? dataBytes : 0)
  u64(large ? format.length : 0)
  u32(0)
  if (bext.length) {
    tag('bext')
    u32(bext.length)
    bytes.set(bext, at)
    at += bext.length
  }
  if (ixml.length) {
    tag('iXML')
    u32(ixml.length)
    bytes.set(ixml, at)
    at += ixml.length + (ixml.length % 2)
  }
  tag('fmt ')
  u32(16)
  view.setUint16(at, format.bits === 32 ? 3 : 1, true)
  view.setUint16(at + 2, format.channels, true)
  view.setUint32(at + 4, format.sampleRate, true)
  view.setUint32(at + 8, format.sampleRate * frameBytes, true)
  view.setUint16(at + 12, frameBytes, true)
  view.setUint16(at + 14, format.bits, true)
  at += 16
  tag('data')
  u32(large ? 0xffffffff : dataBytes)
  return bytes
}

/** Full scale of 24 bits. */
const FULL = 8_388_608

/** A sample as a whole number of 24 bits, rounded to nearest and held at full scale. */
export function toInt24(sample: number): number {
  // Counted from the lowest value, what is cut off is a part of one.
  const above = sample * FULL + FULL + 0.5
  if (above >= 2 * FULL) return FULL - 1
  return above < 0 ? -FULL : (above | 0) - FULL
}

/**
 * Packs two channels into interleaved 24-bit samples, rounded to nearest and held at full scale.
 *
 * @returns The bytes and how many samples went over full scale.
 */
export function packStereo24(
  left: Float32Array,
  right: Float32Array,
  length: number,
): { bytes: Uint8Array; overs: number } {
  const samples = new Float32Array(2 * length)
  for (let i = 0; i < length; i++) {
    samples[2 * i] = left[i] as number
    samples[2 * i + 1] = right[i] as number
  }
  return packSamples24(samples)
}

/** Highest value that is certainly not held at full scale. */
const UNDER = 1 - 1 / FULL

/**
 * Packs interleaved samples into 24 bits each, rounded to nearest and held at full scale.
 *
 * @param peak - Their highest absolute value, where it is known: those that need not be held are packed far quicker.
 * @returns The bytes and how many samples went over full scale.
 */
export function packSamples24(samples: Float32Array, peak = Infinity): { bytes: Uint8Array; overs: number } {
  const { length } = samples
  // Four samples are three words of 32 bits, written as such: little-endian, as every machine is that runs this.
  const words = new Uint32Array(Math.ceil(length / 4) * 3)
  let overs = 0
  const whole = length - (length % 4)
  if (peak < UNDER)
    for (let i = 0, at = 0; i < whole; i += 4, at += 3) {
      const a = bits24(samples[i] as number)
      const b = bits24(samples[i + 1] as number)
      const c = bits24(samples[i + 2] as number)
      const d = bits24(samples[i + 3] as number)
      words[at] = a | (b << 24)
      words[at + 1] = (b >> 8) | (c << 16)
      words[at + 2] = (c >> 16) | (d << 8)
    }
  const bytes = new Uint8Array(words.buffer, 0, 3 * length)
  for (let i = peak < UNDER ? whole : 0, at = 3 * i; i < length; i++, at += 3) {
    const value = Math.round((samples[i] as number) * FULL)
    const held = value > FULL - 1 ? FULL - 1 : value < -FULL ? -FULL : value
    if (held !== value) overs++
    bytes[at] = held
    bytes[at + 1] = held >> 8
    bytes[at + 2] = held >> 16
  }
  return { bytes, overs }
}

/** A sample below full scale as 24 bits of two's complement, halves upward as Math.round has them: counted from the lowest value, so that what is cut off is a part of one. */
const bits24 = (sample: number): number => ((sample * FULL + FULL + 0.5) | 0) ^ FULL

/** A chunk of a RIFF file: its four letters, and where its content lies. */
export interface WavChunk {
  readonly id: string
  readonly at: number
  readonly size: number
}

/**
 * Lists the chunks of the beginning of a WAV or RF64 file; the last may reach beyond the bytes given.
 *
 * @returns A refusal `CORE_NOT_WAV` when the bytes do not begin as WAV.
 */
export function wavChunks(bytes: Uint8Array): Result<WavChunk[]> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const text = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4))
  if (bytes.length < 12 || !['RIFF', 'RF64'].includes(text(0)) || text(8) !== 'WAVE')
    return refuse('CORE_NOT_WAV', 'wavChunks')
  const chunks: WavChunk[] = []
  for (let at = 12; at + 8 <= bytes.length;) {
    const size = view.getUint32(at + 4, true)
    chunks.push({ id: text(at), at: at + 8, size })
    at += 8 + size + (size % 2)
  }
  return ok(chunks)
}

/** Reads the `bext` chunk of the beginning of a WAV file; null when there is none. */
export function readBext(bytes: Uint8Array): Bext | null {
  const chunks = wavChunks(bytes)
  const chunk = chunks.ok ? chunks.value.find((candidate) => candidate.id === 'bext') : undefined
  if (!chunk || chunk.size < 348 || chunk.at + 348 > bytes.length) return null
  const view = new DataView(bytes.buffer, bytes.byteOffset + chunk.at, 348)
  const text = (at: number, size: number): string => {
    const field = bytes.subarray(chunk.at + at, Math.min(bytes.length, chunk.at + at + size))
    const end = field.indexOf(0)
    return String.fromCharCode(...(end < 0 ? field : field.subarray(0, end))).trim()
  }
  return {
    description: text(0, 256),
    originator: text(256, 32),
    originatorReference: text(288, 32),
    date: text(320, 10),
    time: text(330, 8),
    timeReference: view.getUint32(338, true) + view.getUint32(342, true) * 2 ** 32,
    codingHistory: chunk.size > 602 ? text(602, chunk.size - 602) : '',
    ...(view.getUint16(346, true) >= 2 ? loudnessIn(bytes, chunk) : {}),
  }
}

function loudnessIn(bytes: Uint8Array, chunk: WavChunk): { loudness?: BextLoudness } {
  const end = LOUDNESS_AT + 2 * LOUDNESS_FIELDS.length
  if (chunk.size < end || chunk.at + end > bytes.length) return {}
  const view = new DataView(bytes.buffer, bytes.byteOffset + chunk.at, end)
  const [integrated, range, truePeak, momentary, shortTerm] = LOUDNESS_FIELDS.map(
    (_, index) => view.getInt16(LOUDNESS_AT + 2 * index, true) / 100,
  ) as [number, number, number, number, number]
  return { loudness: { integrated, range, truePeak, momentary, shortTerm } }
}

/** The bytes (UTF-8) of the `iXML` chunk of the beginning of a WAV file, or null. */
export function ixmlBytes(bytes: Uint8Array): Uint8Array | null {
  const chunks = wavChunks(bytes)
  const chunk = chunks.ok ? chunks.value.find((candidate) => candidate.id === 'iXML') : undefined
  if (!chunk) return null
  return bytes.subarray(chunk.at, chunk.at + chunk.size)
}
