import { createHash } from 'node:crypto'
import { open } from 'node:fs/promises'
import path from 'node:path'
import { ixmlBytes, OnsetFinder, PeakCollector, readBext, splitName, type PeakLevel } from '@yodel/core'
import { parseFile, type IAudioMetadata } from 'music-metadata'
import type { SoundRow } from '../db/entities.js'
import { decodeSound } from '../media/decode.js'
import type { Settings } from '../settings.js'

/** File endings that are taken for recordings. */
export const RECORDING_ENDINGS = new Set(['.wav', '.bwf', '.rf64', '.aif', '.aiff', '.flac', '.ogg', '.oga', '.opus', '.mp3', '.m4a'])

const HEAD_BYTES = 64 * 1024

/** What a file says and sounds like; everything of a sound's row but its place and its ids. */
export type Recording = Omit<SoundRow, 'id' | 'shelfId' | 'path' | 'missing'>

/** Size and time of change: a cheap sign that a file is the one that was read before. */
export function fingerprintOf(file: { size: number; mtimeMs: number }): string {
  return createHash('sha256')
    .update(`${file.size}:${Math.round(file.mtimeMs)}`)
    .digest('hex')
    .slice(0, 16)
}

/**
 * Reads a recording: tags (bext, iXML, INFO, ID3, Vorbis comments), file name and technical facts,
 * and by decoding it once its length, peak, first onset and outline.
 *
 * @throws Error with the reason, for the shelf's list of problems.
 */
export async function readRecording(settings: Pick<Settings, 'ffmpeg'>, file: string, fingerprint: string): Promise<{ recording: Recording; peaks: PeakLevel[] }> {
  const metadata = await parseFile(file, { duration: false, skipCovers: true }).catch(() => null)
  const head = await readHead(file)
  const bext = readBext(head)
  const ixml = ixmlTags(head)
  const { common, format } = metadata ?? { common: undefined, format: undefined }
  const channels = format?.numberOfChannels ?? 2
  const heard = channels === 1 ? 1 : 2
  const collector = new PeakCollector()
  const onsets = new OnsetFinder()
  let peak = 0
  const length = await decodeSound(settings, file, heard, (block) => {
    collector.push(block, heard)
    onsets.push(block, heard)
    for (const value of block) peak = Math.max(peak, Math.abs(value))
  })
  const stem = path.basename(file, path.extname(file))
  const name = firstOf(common?.title, ixml.name) || splitName(stem)
  const keywords = firstOf(ixml.keywords, common?.keywords?.join(', '), nativeText(metadata, 'TXXX:keywords'), nativeText(metadata, 'KEYWORDS'))
  const description = firstOf(bext?.description, common?.comment?.[0]?.text, common?.description?.[0], ixml.note, nativeText(metadata, 'TXXX:comment'))
  return {
    peaks: collector.finish(),
    recording: {
      fingerprint,
      name,
      words: `${splitName(name)} ${splitName(stem)}`.toLowerCase(),
      description,
      keywords,
      category: firstOf(ixml.category, common?.genre?.[0]),
      licence: firstOf(ixml.licence, common?.license?.[0], common?.copyright),
      source: firstOf(bext?.originator, common?.artist),
      channels,
      sampleRate: format?.sampleRate ?? 48_000,
      bits: format?.bitsPerSample ?? null,
      codec: (format?.codec ?? format?.container ?? path.extname(file).slice(1)).toString(),
      length,
      sync: onsets.finish(),
      peak: peak > 0 ? 20 * Math.log10(peak) : -144,
    },
  }
}

async function readHead(file: string): Promise<Uint8Array> {
  const handle = await open(file, 'r')
  try {
    const bytes = Buffer.alloc(HEAD_BYTES)
    const { bytesRead } = await handle.read(bytes, 0, HEAD_BYTES, 0)
    return bytes.subarray(0, bytesRead)
  } finally {
    await handle.close()
  }
}

function ixmlTags(head: Uint8Array): { name: string; keywords: string; category: string; licence: string; note: string } {
  const bytes = ixmlBytes(head)
  const xml = bytes ? new TextDecoder().decode(bytes) : ''
  const tag = (name: string): string => unescapeXml(new RegExp(`<${name}>([^<]*)</${name}>`).exec(xml)?.[1] ?? '')
  return { name: tag('NAME'), keywords: tag('KEYWORDS'), category: tag('CATEGORY'), licence: tag('LICENCE'), note: tag('NOTE') }
}

/** A tag that has no common name, as its format calls it. */
function nativeText(metadata: IAudioMetadata | null, id: string): string {
  const tags = Object.values(metadata?.native ?? {}).flat()
  const found = tags.find((tag) => tag.id === id)?.value
  return typeof found === 'string' ? found : ''
}

function unescapeXml(text: string): string {
  return text.replace(/&(lt|gt|quot|apos|amp);/g, (_, name: string) => ({ lt: '<', gt: '>', quot: '"', apos: "'", amp: '&' })[name] ?? '')
}

function firstOf(...values: (string | undefined)[]): string {
  return values.map((value) => value?.replace(/\0/g, '').trim() ?? '').find((value) => value !== '') ?? ''
}
