// A reel of 24 tracks in six categories, 300 clips and 10 minutes, with fades, gain and pan, and how ffmpeg plays its clips.
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import {
  CATEGORIES,
  clipAtSample,
  documentOf,
  planReel,
  PRESETS,
  SAMPLE_RATE,
  samples,
  type Category,
  type Clip,
  type Insert,
  type ReelRecord,
  type RenderPlan,
  type Track,
} from '@yodel/core'
import mix, { type MixOrder, type MixReport } from '../../apps/server/src/turnover/audio/mixWorker.js'
import type { WavOrder } from '../../apps/server/src/turnover/audio/WavPart.js'

const RATE = SAMPLE_RATE
/** Samples. */
export const LENGTH = 600 * RATE
const TRACKS = 24
const CLIPS = 300
const SOUNDS = 20

let state = 7
const random = (): number => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648
export const folder = mkdtempSync(path.join(tmpdir(), 'yodel-mixer-'))

/** Decoded recordings of noise. */
export const sounds = Array.from({ length: SOUNDS }, (_, index) => {
  const channels = (index % 2 === 0 ? 1 : 2) as 1 | 2
  const length = Math.round((4 + random() * 40) * RATE)
  const samples = new Float32Array(length * channels)
  for (let i = 0; i < samples.length; i++) samples[i] = (random() - 0.5) * 0.2
  const file = path.join(folder, `${index}.f32`)
  writeFileSync(file, new Uint8Array(samples.buffer))
  return { id: `s${index}`, file, channels, length }
})

/** Tracks over all categories. */
export const tracks: Track[] = Array.from({ length: TRACKS }, (_, index) => ({
  kind: 'track',
  id: `t${index}`,
  name: `t${index}`,
  category: CATEGORIES[index % CATEGORIES.length] as Category,
  order: `a${String(index).padStart(2, '0')}`,
  level: -(index % 5),
  pan: Math.round((random() * 2 - 1) * 10) / 10,
  mute: false,
  solo: false,
  ink: 'category',
  width: 'stereo',
  folder: '',
  column: 0,
}))
const ends = tracks.map(() => 0)
/** Sounds one after the other on each track, with fades and gains. */
export const clips: Clip[] = Array.from({ length: CLIPS }, (_, index) => {
  const track = index % TRACKS
  const sound = sounds[Math.floor(random() * SOUNDS)]!
  const offset = Math.floor(random() * sound.length * 0.2)
  const start = ends[track]! + Math.floor(random() * 12 * RATE)
  const length = Math.min(sound.length - offset, LENGTH - start)
  ends[track] = start + length
  const part = { from: offset, to: offset + length, gain: -(index % 9), fadeIn: 4800, fadeOut: 9600 }
  return {
    ...clipAtSample({
      id: `c${index}`,
      trackId: `t${track}`,
      cueId: null,
      at: start,
      sound: { id: sound.id, name: '', recorded: sound.length, sync: offset, ...part },
    }),
    fadeInShape: index % 2 ? 'power' : 'linear',
    fadeOutShape: index % 3 ? 's' : 'power',
  } satisfies Clip
}).filter((clip) => clip.length > 20_000)

/** The plan of the reel, with an equaliser, a compressor and a ride on each track or without. */
export const planOf = (treated: boolean): RenderPlan =>
  planReel(documentOf([...tracks, ...clips, ...(treated ? treatment() : [])] as ReelRecord[]))

/** A file of a mix. */
export function fileOf(source: WavOrder['source'], name: string): WavOrder {
  const out = path.join(folder, `${name}.wav`)
  writeFileSync(out, '')
  const text = {
    description: '',
    originator: '',
    originatorReference: '',
    date: '2031-05-09',
    time: '12:00:00',
  }
  return { source, out, bext: { ...text, timeReference: 0, codingHistory: '' }, ixml: new Uint8Array(0) }
}

/** Mixes the reel, or its beginning, into files. */
export async function mixInto(
  files: readonly WavOrder[],
  plan: RenderPlan,
  to: number = LENGTH,
): Promise<MixReport> {
  const media: MixOrder['media'] = Object.fromEntries(
    sounds.map((sound) => [sound.id, { file: sound.file, channels: sound.channels }]),
  )
  return mix({ plan, media, span: { from: 0, to }, files, pop: null, truePeak: -1 })
}

// The peer: ffmpeg with one chain a clip. Pan gains are worked out here from the W3C text, not by our code.
const SHAPES = { linear: 'tri', power: 'qsin', s: 'hsin' } as const
/** How ffmpeg plays each clip, as a chain from its input to `[cN]`. */
export const chains = clips.map((clip, index) => {
  const sound = sounds.find((candidate) => candidate.id === clip.soundId)!
  const track = tracks.find((candidate) => candidate.id === clip.trackId)!
  const level = 10 ** ((clip.gain + track.level) / 20)
  const g = (value: number): string => (value * level).toFixed(12)
  let matrix: string
  if (sound.channels === 1) {
    const x = ((track.pan + 1) / 2) * (Math.PI / 2)
    matrix = `pan=stereo|c0=${g(Math.cos(x))}*c0|c1=${g(Math.sin(x))}*c0`
  } else if (track.pan <= 0) {
    const x = (track.pan + 1) * (Math.PI / 2)
    matrix = `pan=stereo|c0=${g(1)}*c0+${g(Math.cos(x))}*c1|c1=${g(Math.sin(x))}*c1`
  } else {
    const x = track.pan * (Math.PI / 2)
    matrix = `pan=stereo|c0=${g(Math.cos(x))}*c0|c1=${g(Math.sin(x))}*c0+${g(1)}*c1`
  }
  const fades = `afade=t=in:ss=0:ns=${clip.fadeIn}:curve=${SHAPES[clip.fadeInShape]},afade=t=out:ss=${clip.length - clip.fadeOut}:ns=${clip.fadeOut}:curve=${SHAPES[clip.fadeOutShape]}`
  return `[${index}:a]atrim=start_sample=${clip.offset}:end_sample=${clip.offset + clip.length},asetpts=PTS-STARTPTS,${fades},${matrix},adelay=${clip.start}S:all=1[c${index}]`
})
/** The inputs of ffmpeg for those chains. */
export const inputs = clips.flatMap((clip) => {
  const sound = sounds.find((candidate) => candidate.id === clip.soundId)!
  return ['-f', 'f32le', '-ar', '48000', '-ac', String(sound.channels), '-i', sound.file]
})

/** An equaliser, a compressor and a ride of the level for each track. */
function treatment(): ReelRecord[] {
  return tracks.flatMap(({ id }): ReelRecord[] => [
    {
      ...{ kind: 'insert', id: `e${id}`, on: id, order: 'a0', bypass: false, effect: 'equaliser' },
      ...{
        ...(PRESETS.equaliser[0] as (typeof PRESETS.equaliser)[number]).settings,
        highPass: 80,
        lowDb: 3,
        firstDb: -4,
        highDb: 2,
      },
    } as Insert,
    {
      ...{ kind: 'insert', id: `c${id}`, on: id, order: 'a1', bypass: false, effect: 'compressor' },
      ...(PRESETS.compressor[0] as (typeof PRESETS.compressor)[number]).settings,
    } as Insert,
    ...Array.from({ length: 60 }, (_, point): ReelRecord => ({
      kind: 'ride',
      id: `${id}-${point}`,
      trackId: id,
      what: 'level',
      at: samples(point * 10 * RATE),
      value: -(point % 7),
      bend: 'straight',
    })),
  ])
}
