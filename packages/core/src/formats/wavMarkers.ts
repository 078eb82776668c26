import { ok, refuse, type Result } from '../errors.js'
import { readBext } from './wav.js'

/** A marker of a WAV file. */
export interface WavMarker {
  /** Sample of the file, at the file's own rate. */
  readonly sample: number
  /** Length in samples, 0 for a point. */
  readonly length: number
  readonly words: string
}

/** Markers of a WAV file with what is needed to place them. */
export interface WavMarkers {
  readonly sampleRate: number
  /** Samples since midnight of the first sample, or null without a `bext` chunk. */
  readonly timeReference: number | null
  readonly markers: readonly WavMarker[]
}

const SMALL = 4_000_000

/**
 * Reads the markers of a WAV or RF64 file: the `cue ` chunk with the labels (`labl`, `note`) and lengths (`ltxt`)
 * of its `LIST adtl` (RIFF). Only the chunks needed are read, wherever they stand.
 *
 * @param read - Gives `size` bytes from `at`; fewer at the end of the file.
 * @param fileSize - Size of the file in bytes.
 */
export async function readWavMarkers(
  read: (at: number, size: number) => Promise<Uint8Array>,
  fileSize: number,
): Promise<Result<WavMarkers>> {
  const head = await read(0, 12)
  const letters = (bytes: Uint8Array, at: number): string =>
    String.fromCharCode(...bytes.subarray(at, at + 4))
  if (head.length < 12 || !['RIFF', 'RF64'].includes(letters(head, 0)) || letters(head, 8) !== 'WAVE')
    return refuse('CORE_NOT_WAV', 'readWavMarkers')
  let sampleRate = 0
  let timeReference: number | null = null
  let dataSize = 0
  const points = new Map<number, number>()
  const labels = new Map<number, string>()
  const lengths = new Map<number, number>()
  for (let at = 12; at + 8 <= fileSize;) {
    const header = await read(at, 8)
    if (header.length < 8) break
    const id = letters(header, 0)
    const declared = viewOf(header).getUint32(4, true)
    const size = id === 'data' && declared === 0xffffffff ? dataSize : declared
    const wanted = ['ds64', 'bext', 'fmt ', 'cue ', 'LIST'].includes(id) && size <= SMALL
    const body = wanted ? await read(at + 8, size) : null
    if (body) {
      const view = viewOf(body)
      if (id === 'ds64' && body.length >= 16)
        dataSize = view.getUint32(8, true) + view.getUint32(12, true) * 2 ** 32
      if (id === 'fmt ' && body.length >= 8) sampleRate = view.getUint32(4, true)
      if (id === 'bext') timeReference = bextTime(header, body)
      if (id === 'cue ') readPoints(body, points)
      if (id === 'LIST' && letters(body, 0) === 'adtl') readLabels(body, labels, lengths)
    }
    at += 8 + size + (size % 2)
  }
  if (sampleRate === 0) return refuse('CORE_NOT_WAV', 'readWavMarkers', 'no fmt chunk')
  const markers = [...points].map(([id, sample]) => ({
    sample,
    length: lengths.get(id) ?? 0,
    words: labels.get(id) ?? '',
  }))
  return ok({ sampleRate, timeReference, markers: markers.sort((a, b) => a.sample - b.sample) })
}

const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)

function bextTime(header: Uint8Array, body: Uint8Array): number | null {
  // readBext takes the beginning of a file: one that holds nothing but this chunk.
  const file = new Uint8Array(20 + body.length)
  file.set([0x52, 0x49, 0x46, 0x46, 0, 0, 0, 0, 0x57, 0x41, 0x56, 0x45])
  file.set(header, 12)
  file.set(body, 20)
  return readBext(file)?.timeReference ?? null
}

function readPoints(body: Uint8Array, points: Map<number, number>): void {
  const view = viewOf(body)
  const count = body.length >= 4 ? view.getUint32(0, true) : 0
  for (let i = 0, at = 4; i < count && at + 24 <= body.length; i++, at += 24)
    points.set(view.getUint32(at, true), view.getUint32(at + 20, true))
}

function readLabels(body: Uint8Array, labels: Map<number, string>, lengths: Map<number, number>): void {
  const view = viewOf(body)
  for (let at = 4; at + 12 <= body.length;) {
    const id = String.fromCharCode(...body.subarray(at, at + 4))
    const size = view.getUint32(at + 4, true)
    const point = view.getUint32(at + 8, true)
    if ((id === 'labl' || id === 'note') && size > 4) {
      const text = decodeText(body.subarray(at + 12, Math.min(body.length, at + 8 + size)))
      if (id === 'labl' || !labels.get(point)) labels.set(point, text)
    }
    if (id === 'ltxt' && at + 16 <= body.length) lengths.set(point, view.getUint32(at + 12, true))
    at += 8 + size + (size % 2)
  }
}

/** Text up to its zero byte: UTF-8 where it is valid, else Latin-1. */
function decodeText(bytes: Uint8Array): string {
  const end = bytes.indexOf(0)
  const text = end < 0 ? bytes : bytes.subarray(0, end)
  const latin = String.fromCharCode(...text)
  try {
    return decodeURIComponent(escapeBytes(text))
  } catch {
    return latin
  }
}

const escapeBytes = (bytes: Uint8Array): string =>
  [...bytes].map((byte) => `%${byte.toString(16).padStart(2, '0')}`).join('')
