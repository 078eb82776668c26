import type { Result } from '../errors.js'
import { ok, refuse } from '../errors.js'
import { wavChunks } from './wav.js'

/** How the samples of a WAV file are written, and where. */
export interface WavLayout {
  readonly channels: number
  readonly sampleRate: number
  readonly bits: 8 | 16 | 24 | 32 | 64
  readonly float: boolean
  /** Byte at which the samples begin. */
  readonly at: number
  /** Bytes of samples that the header promises; Infinity where it says that it doesn't know. */
  readonly size: number
}

const EXTENSIBLE = 0xfffe
const INTEGER = 1
const FLOAT = 3

/**
 * Reads how the samples of a WAV file are written from its beginning.
 *
 * @returns A refusal `CORE_NOT_WAV` when there is no such layout in these bytes, or the samples are packed otherwise.
 */
export function wavLayout(head: Uint8Array): Result<WavLayout> {
  const chunks = wavChunks(head)
  if (!chunks.ok) return chunks
  const fmt = chunks.value.find((chunk) => chunk.id === 'fmt ')
  const data = chunks.value.find((chunk) => chunk.id === 'data')
  if (!fmt || !data || fmt.size < 16 || fmt.at + 16 > head.length)
    return refuse('CORE_NOT_WAV', 'wavLayout', 'fmt or data is missing')
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength)
  const tag = view.getUint16(fmt.at, true)
  const kind =
    tag === EXTENSIBLE && fmt.size >= 26 && fmt.at + 26 <= head.length
      ? view.getUint16(fmt.at + 24, true)
      : tag
  const channels = view.getUint16(fmt.at + 2, true)
  const bits = view.getUint16(fmt.at + 14, true)
  const float = kind === FLOAT
  const known = float ? bits === 32 || bits === 64 : kind === INTEGER && [8, 16, 24, 32].includes(bits)
  if (!known || channels === 0)
    return refuse('CORE_NOT_WAV', 'wavLayout', `format ${kind}, ${bits} bits, ${channels} channels`)
  const size = data.size >= 0xfffffff0 ? Infinity : data.size
  return ok({
    channels,
    sampleRate: view.getUint32(fmt.at + 4, true),
    bits: bits as WavLayout['bits'],
    float,
    at: data.at,
    size,
  })
}

/**
 * Unpacks whole samples, little-endian, to -1..1 as EBU and Microsoft have them: 8 bits unsigned, the rest signed, full scale 2^(bits-1).
 *
 * @param bytes - As many whole samples as fit; a rest is passed over.
 */
export function unpackSamples(
  { bits, float }: Pick<WavLayout, 'bits' | 'float'>,
  bytes: Uint8Array,
): Float32Array {
  const step = bits / 8
  const count = Math.floor(bytes.length / step)
  const out = new Float32Array(count)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (float)
    for (let i = 0; i < count; i++)
      out[i] = bits === 32 ? view.getFloat32(4 * i, true) : view.getFloat64(8 * i, true)
  else if (bits === 8) for (let i = 0; i < count; i++) out[i] = ((bytes[i] as number) - 128) / 128
  else if (bits === 16) for (let i = 0; i < count; i++) out[i] = view.getInt16(2 * i, true) / 32_768
  else if (bits === 32) for (let i = 0; i < count; i++) out[i] = view.getInt32(4 * i, true) / 2_147_483_648
  else
    for (let i = 0, at = 0; i < count; i++, at += 3) {
      const value =
        (bytes[at] as number) | ((bytes[at + 1] as number) << 8) | ((bytes[at + 2] as number) << 16)
      out[i] = ((value << 8) >> 8) / 8_388_608
    }
  return out
}
