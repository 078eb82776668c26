// The reel of mixReel.ts bounced by us and by ffmpeg; and by us with an equaliser, a compressor and a ride on each track.
// The peer takes some five minutes: one chain a clip into one amix (a concat for each track took longer still).
import { execFileSync } from 'node:child_process'
import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { samplesIn } from '@yodel/core'
import { chains, clips, fileOf, folder, inputs, LENGTH, mixInto, planOf } from './mixReel.js'
import { report } from './report.js'

const mixed = fileOf({ of: 'whole' }, 'ours')
const ours = mixed.out
await mixInto([mixed], planOf(false), samplesIn(30))
const begun = performance.now()
await mixInto([mixed], planOf(false))
const seconds = (performance.now() - begun) / 1000
const treatedBegun = performance.now()
await mixInto([mixed], planOf(true))
report({
  name: 'mixer.treated',
  value: 600 / ((performance.now() - treatedBegun) / 1000),
  unit: 'x real time on one core: 24 tracks, each with an equaliser of four sections, a compressor and a ride',
})
await mixInto([mixed], planOf(false))
if (process.env['YODEL_BENCH_PEER'] === '0') {
  report({ name: 'mixer.realtime', value: 600 / seconds, unit: 'x real time' })
  process.exit(0)
}

const graph = `${chains.join(';\n')};\n${clips.map((_, index) => `[c${index}]`).join('')}amix=inputs=${clips.length}:normalize=0:duration=longest,apad=whole_len=${LENGTH},atrim=end_sample=${LENGTH}[out]`
const script = path.join(folder, 'graph.txt')
writeFileSync(script, graph)
const theirs = path.join(folder, 'theirs.wav')
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
