// A reel of 24 tracks, 300 clips and 10 minutes, with fades, gain and pan: bounced by us and by ffmpeg; and by us with an equaliser, a compressor and a ride on each track.
// The peer takes some five minutes: one chain a clip into one amix (a concat for each track took longer still).
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import {
  clipAtSample,
  planReel,
  samples,
  documentOf,
  PRESETS,
  type Clip,
  type Insert,
  type ReelRecord,
  type Track,
} from '@yodel/core'
import bounce from '../../apps/server/src/turnover/bounceWorker.js'
import { report } from './report.js'

const RATE = 48_000
const LENGTH = 600 * RATE
const TRACKS = 24
const CLIPS = 300
const SOUNDS = 20

let state = 7
const random = (): number => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-mixer-'))

const sounds = Array.from({ length: SOUNDS }, (_, index) => {
  const channels = (index % 2 === 0 ? 1 : 2) as 1 | 2
  const length = Math.round((4 + random() * 40) * RATE)
  const samples = new Float32Array(length * channels)
  for (let i = 0; i < samples.length; i++) samples[i] = (random() - 0.5) * 0.2
  const file = path.join(folder, `${index}.f32`)
  writeFileSync(file, new Uint8Array(samples.buffer))
  return { id: `s${index}`, file, channels, length }
})

const tracks: Track[] = Array.from({ length: TRACKS }, (_, index) => ({
  kind: 'track',
  id: `t${index}`,
  name: `t${index}`,
  category: 'FX',
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
const clips: Clip[] = Array.from({ length: CLIPS }, (_, index) => {
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

const plan = planReel(documentOf([...tracks, ...clips] as ReelRecord[]))
const media = Object.fromEntries(
  sounds.map((sound) => [sound.id, { file: sound.file, channels: sound.channels }]),
)
const ours = path.join(folder, 'ours.wav')
writeFileSync(ours, '')
bounce({ plan, media, from: 0, to: 30 * RATE, out: ours })
const begun = performance.now()
bounce({ plan, media, from: 0, to: LENGTH, out: ours })
const seconds = (performance.now() - begun) / 1000
const treatedBegun = performance.now()
bounce({
  plan: planReel(documentOf([...tracks, ...clips, ...treatment()] as ReelRecord[])),
  media,
  from: 0,
  to: LENGTH,
  out: ours,
})
report({
  name: 'mixer.treated',
  value: 600 / ((performance.now() - treatedBegun) / 1000),
  unit: 'x real time on one core: 24 tracks, each with an equaliser of four sections, a compressor and a ride',
})
bounce({ plan, media, from: 0, to: LENGTH, out: ours })
if (process.env['YODEL_BENCH_PEER'] === '0') {
  report({ name: 'mixer.realtime', value: 600 / seconds, unit: 'x real time' })
  process.exit(0)
}

// The peer: ffmpeg with one chain a clip. Pan gains are worked out here from the W3C text, not by our code.
const SHAPES = { linear: 'tri', power: 'qsin', s: 'hsin' } as const
const chains = clips.map((clip, index) => {
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
const graph = `${chains.join(';\n')};\n${clips.map((_, index) => `[c${index}]`).join('')}amix=inputs=${clips.length}:normalize=0:duration=longest,apad=whole_len=${LENGTH},atrim=end_sample=${LENGTH}[out]`
const script = path.join(folder, 'graph.txt')
writeFileSync(script, graph)
const theirs = path.join(folder, 'theirs.wav')
const inputs = clips.flatMap((clip) => {
  const sound = sounds.find((candidate) => candidate.id === clip.soundId)!
  return ['-f', 'f32le', '-ar', '48000', '-ac', String(sound.channels), '-i', sound.file]
})
const peerBegun = performance.now()
execFileSync(
  'ffmpeg',
  [
    '-v',
    'error',
    '-y',
    ...inputs,
    '-filter_complex_script',
    script,
    '-map',
    '[out]',
    '-c:a',
    'pcm_s24le',
    theirs,
  ],
  { maxBuffer: 1 << 26 },
)
const peerSeconds = (performance.now() - peerBegun) / 1000

const samplesOf = (file: string): Buffer => {
  const bytes = readFileSync(file)
  return bytes.subarray(bytes.indexOf('data') + 8)
}
const [a, b] = [samplesOf(ours), samplesOf(theirs)]
if (Math.abs(a.length - b.length) > 6) throw new Error(`lengths differ: ${a.length} and ${b.length}`)
let worst = 0
for (let at = 0; at + 3 <= Math.min(a.length, b.length); at += 3)
  worst = Math.max(worst, Math.abs(a.readIntLE(at, 3) - b.readIntLE(at, 3)))
rmSync(folder, { recursive: true })
report({
  name: 'mixer.realtime',
  value: 600 / seconds,
  unit: 'x real time',
  peer: 'ffmpeg',
  ratio: peerSeconds / seconds,
})
report({
  name: 'mixer.residual',
  value: 20 * Math.log10(Math.max(worst, 0.5) / 8_388_608),
  unit: 'dBFS',
  peer: 'ffmpeg',
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
