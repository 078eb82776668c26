import { createHash } from 'node:crypto'
import { open } from 'node:fs/promises'
import path from 'node:path'
import { SAMPLE_RATE, ixmlBytes, readBext, readFileName, splitName, wavLayout } from '@yodel/core'
import { parseBuffer, parseFile, type IAudioMetadata, type IFormat } from 'music-metadata'
import { z } from 'zod'
import type { SoundRow } from '../db/rows.js'
import { inputArgs, runTool } from '../processes/runTool.js'
import type { Settings } from '../settings.js'

const HEAD_BYTES = 64 * 1024
const PROBE_TIMEOUT_MS = 60_000

/** What a file says of itself, without being listened to. */
export type FileFacts = Pick<
  SoundRow,
  | 'fingerprint'
  | 'content'
  | 'size'
  | 'name'
  | 'description'
  | 'keywords'
  | 'category'
  | 'licence'
  | 'source'
  | 'channels'
  | 'sampleRate'
  | 'bits'
  | 'codec'
  | 'length'
>

/** Size and time of change: a cheap sign that a file is the one that was read before. */
export function fingerprintOf(file: { size: number; mtimeMs: number }): string {
  return createHash('sha256')
    .update(`${file.size}:${Math.round(file.mtimeMs)}`)
    .digest('hex')
    .slice(0, 16)
}

/**
 * Reads a recording's tags (bext, iXML, INFO, ID3, Vorbis comments), its name and technical facts.
 * Where the file does not say how long it is, the length is 0 until it has been listened to.
 *
 * @throws Error with the reason when the file is empty or can't be read.
 */
export async function readTags(
  settings: Pick<Settings, 'ffprobe'>,
  root: string,
  file: { readonly path: string; readonly size: number; readonly mtimeMs: number },
): Promise<FileFacts> {
  if (file.size === 0) throw new Error('The file is empty.')
  const full = path.join(root, file.path)
  const head = await readHead(full)
  const layout = wavLayout(head)
  // The tags of most WAV files stand before their samples: one read is enough. Other files, and WAV with something behind, are read by place.
  const whole =
    layout.ok && layout.value.at + layout.value.size + 64 > file.size && layout.value.at < head.length
  const metadata = await (
    whole
      ? parseBuffer(head, { size: file.size }, { duration: false, skipCovers: true })
      : parseFile(full, { duration: false, skipCovers: true })
  ).catch(() => null)
  const stem = path.basename(file.path, path.extname(file.path))
  const texts = textsOf(head, metadata, stem)
  // What its reader does not know, ffprobe is asked for.
  const format =
    layout.ok || metadata?.format.sampleRate
      ? metadata?.format
      : await probeFormat(settings, full).catch(() => metadata?.format)
  const wav = layout.ok ? layout.value : null
  const sampleRate = wav?.sampleRate ?? format?.sampleRate ?? 0
  // What the header promises; whether it is there shows when it is listened to.
  const bytes = wav ? (wav.size === Infinity ? file.size - wav.at : wav.size) : 0
  const time =
    wav && wav.sampleRate > 0
      ? bytes / ((wav.bits / 8) * wav.channels * wav.sampleRate)
      : (format?.duration ?? 0)
  return {
    ...texts,
    fingerprint: fingerprintOf(file),
    content: createHash('sha256').update(`${file.size}:`).update(head).digest('hex').slice(0, 32),
    size: file.size,
    channels: wav?.channels ?? format?.numberOfChannels ?? 2,
    sampleRate: sampleRate > 0 ? sampleRate : SAMPLE_RATE,
    bits: wav?.bits ?? format?.bitsPerSample ?? null,
    codec: (wav
      ? wav.float
        ? 'PCM float'
        : 'PCM'
      : (format?.codec ?? format?.container ?? path.extname(file.path).slice(1))
    ).toString(),
    length: Math.max(0, Math.floor(time * SAMPLE_RATE)),
  }
}

const probedSchema = z.object({
  streams: z
    .array(
      z.object({
        codec_name: z.string().default('unknown'),
        channels: z.number().default(2),
        sample_rate: z.coerce.number().default(SAMPLE_RATE),
      }),
    )
    .default([]),
  format: z.object({ duration: z.coerce.number().optional() }).default({}),
})

/** Technical facts of a sound by ffprobe. @throws Error when there is no sound in it */
async function probeFormat(
  { ffprobe }: Pick<Settings, 'ffprobe'>,
  file: string,
): Promise<
  Pick<IFormat, 'codec' | 'numberOfChannels' | 'sampleRate' | 'duration' | 'bitsPerSample' | 'container'>
> {
  const args = ['-v', 'error', '-select_streams', 'a:0', '-show_streams', '-show_format', '-of', 'json']
  const text = await runTool(ffprobe, [...args, ...inputArgs(file)], { timeoutMs: PROBE_TIMEOUT_MS })
  const { streams, format } = probedSchema.parse(JSON.parse(text.toString()))
  const [sound] = streams
  if (!sound) throw new Error('There is no sound in it.')
  return {
    ...{ codec: sound.codec_name, numberOfChannels: sound.channels, sampleRate: sound.sample_rate },
    ...(format.duration === undefined ? {} : { duration: format.duration }),
  }
}

function textsOf(
  head: Uint8Array,
  metadata: IAudioMetadata | null,
  stem: string,
): Pick<FileFacts, 'name' | 'description' | 'keywords' | 'category' | 'licence' | 'source'> {
  const bext = readBext(head)
  const ixml = ixmlTags(head)
  const common = metadata?.common
  const named = readFileName(stem)
  return {
    name: firstOf(common?.title, ixml.name, named?.name) || splitName(stem) || stem,
    description: firstOf(
      bext?.description,
      common?.comment?.[0]?.text,
      common?.description?.[0],
      ixml.note,
      nativeText(metadata, 'TXXX:comment'),
    ),
    keywords: firstOf(
      ixml.keywords,
      common?.keywords?.join(', '),
      nativeText(metadata, 'TXXX:keywords'),
      nativeText(metadata, 'KEYWORDS'),
    ),
    category: firstOf(ixml.category, common?.genre?.[0], named?.category),
    licence: firstOf(ixml.licence, common?.license?.[0], common?.copyright),
    source: firstOf(
      bext?.originator,
      common?.artist,
      [named?.creator, named?.source].filter((part) => part).join(', '),
    ),
  }
}

async function readHead(file: string): Promise<Uint8Array> {
  const handle = await open(file, 'r')
  try {
    const bytes = Buffer.allocUnsafe(HEAD_BYTES)
    const { bytesRead } = await handle.read(bytes, 0, HEAD_BYTES, 0)
    return bytes.subarray(0, bytesRead)
  } finally {
    await handle.close()
  }
}

function ixmlTags(head: Uint8Array): {
  name: string
  keywords: string
  category: string
  licence: string
  note: string
} {
  const bytes = ixmlBytes(head)
  const xml = bytes ? new TextDecoder().decode(bytes) : ''
  const tag = (name: string): string =>
    unescapeXml(new RegExp(`<${name}>([^<]*)</${name}>`).exec(xml)?.[1] ?? '')
  return {
    name: tag('NAME'),
    keywords: tag('KEYWORDS'),
    category: tag('CATEGORY'),
    licence: tag('LICENCE'),
    note: tag('NOTE'),
  }
}

/** A tag that has no common name, as its format calls it. */
function nativeText(metadata: IAudioMetadata | null, id: string): string {
  const tags = Object.values(metadata?.native ?? {}).flat()
  const found = tags.find((tag) => tag.id === id)?.value
  return typeof found === 'string' ? found : ''
}

function unescapeXml(text: string): string {
  return text.replace(
    /&(lt|gt|quot|apos|amp);/g,
    (_, name: string) => ({ lt: '<', gt: '>', quot: '"', apos: "'", amp: '&' })[name] ?? '',
  )
}

function firstOf(...values: (string | undefined)[]): string {
  return values.map((value) => value?.replace(/\0/g, '').trim() ?? '').find((value) => value !== '') ?? ''
}
