import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdir, rename, stat, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { wavHeader } from '@yodel/core'
import { catalogue, type DemoRecording } from './catalogue/index.js'
import { finish } from './dsp.js'

const ENDINGS = { wav16: '.wav', wav24: '.wav', flac: '.flac', ogg: '.ogg', mp3: '.mp3' } as const

/** Path of a recording below the folder of all shelves. */
export function pathOf(recording: DemoRecording): string {
  return path.join(recording.shelf, `${recording.file}${ENDINGS[recording.format]}`)
}

/**
 * Writes the demo's shelves below a folder; files that are there already are left alone.
 *
 * @param ffmpeg - The program that makes FLAC, Ogg and MP3.
 * @returns Names of the shelves.
 */
export async function writeShelves(folder: string, ffmpeg: string): Promise<string[]> {
  const recordings = catalogue()
  // An encoder runs beside the making of the next sound.
  let encoding: Promise<void> = Promise.resolve()
  for (const recording of recordings) {
    const file = path.join(folder, pathOf(recording))
    if (await stat(file).catch(() => null)) continue
    await mkdir(path.dirname(file), { recursive: true })
    const temporary = path.join(path.dirname(file), `.${path.basename(file)}`)
    const wav = encodeWav(recording)
    await encoding
    const written = recording.format.startsWith('wav')
      ? writeFile(temporary, wav)
      : encode(ffmpeg, recording, wav, temporary)
    encoding = written.then(() => rename(temporary, file))
  }
  await encoding
  return [...new Set(recordings.map((recording) => recording.shelf))]
}

function encodeWav(recording: DemoRecording): Uint8Array {
  const channels = finish(recording.make(recording.rate).channels, recording.rate, recording.peak)
  const length = channels[0]?.length ?? 0
  const bits = recording.format === 'wav16' ? 16 : 24
  const tagged = recording.format.startsWith('wav')
  const header = wavHeader({
    channels: channels.length,
    sampleRate: recording.rate,
    bits,
    length,
    ...(tagged ? { bext: bextOf(recording), ixml: new TextEncoder().encode(ixmlOf(recording)) } : {}),
  })
  const step = bits / 8
  const bytes = new Uint8Array(header.length + length * channels.length * step)
  bytes.set(header)
  let at = header.length
  const full = 2 ** (bits - 1)
  for (let i = 0; i < length; i++) {
    for (const channel of channels) {
      const value = Math.max(-full, Math.min(full - 1, Math.round((channel[i] as number) * full)))
      for (let byte = 0; byte < step; byte++) bytes[at++] = (value >> (8 * byte)) & 0xff
    }
  }
  return bytes
}

const bextOf = (recording: DemoRecording) => ({
  description: recording.description,
  originator: 'Quillfeather Pictures',
  originatorReference: recording.file.slice(0, 32),
  date: '2026-01-12',
  time: '20:00:00',
  timeReference: 0,
  codingHistory: '',
})

function ixmlOf(recording: DemoRecording): string {
  const tag = (name: string, value: string): string =>
    `<${name}>${value.replaceAll('&', '&amp;').replaceAll('<', '&lt;')}</${name}>`
  return `<?xml version="1.0" encoding="UTF-8"?><BWFXML>${tag('PROJECT', 'Last Lamp at Tolliver Halt')}<USER>${tag('NAME', recording.name)}${tag('KEYWORDS', recording.keywords)}${tag('CATEGORY', recording.category)}${tag('LICENCE', recording.licence)}</USER></BWFXML>`
}

async function encode(
  ffmpeg: string,
  recording: DemoRecording,
  wav: Uint8Array,
  file: string,
): Promise<void> {
  const tags = {
    title: recording.name,
    comment: recording.description,
    genre: recording.category,
    copyright: recording.licence,
    artist: 'Quillfeather Pictures',
    keywords: recording.keywords,
  }
  const codec = {
    flac: ['-c:a', 'flac', '-f', 'flac'],
    ogg: ['-c:a', 'libvorbis', '-q:a', '6', '-f', 'ogg'],
    mp3: ['-c:a', 'libmp3lame', '-b:a', '256k', '-f', 'mp3'],
  }[recording.format as 'flac' | 'ogg' | 'mp3']
  const metadata = Object.entries(tags).flatMap(([key, value]) => ['-metadata', `${key}=${value}`])
  // Bit-exact, so that the same script always writes the same file.
  const child = spawn(
    ffmpeg,
    [
      '-v',
      'error',
      '-y',
      '-i',
      'pipe:0',
      ...metadata,
      '-fflags',
      '+bitexact',
      '-flags:a',
      '+bitexact',
      ...codec,
      `file:${file}`,
    ],
    {
      stdio: ['pipe', 'ignore', 'inherit'],
    },
  )
  child.stdin.on('error', () => undefined)
  child.stdin.end(wav)
  const [code] = (await once(child, 'close')) as [number]
  if (code !== 0) throw new Error(`ffmpeg could not make ${file}`)
}
