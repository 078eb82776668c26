// The reel of mixReel.ts, treated, in one pass into the mix, six stems and 24 tracks, each measured; and ffmpeg making the same mix and
// stems from the same clips without treatment. And what stays of the untreated mix without its stems.
import { execFileSync } from 'node:child_process'
import { rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { CATEGORIES } from '@yodel/core'
import { chains, clips, fileOf, folder, inputs, LENGTH, mixInto, planOf, tracks } from './mixReel.js'
import { report } from './report.js'

const files = [
  fileOf({ of: 'whole' }, 'mix'),
  ...CATEGORIES.map((category) => fileOf({ of: 'stem', category }, `stem-${category}`)),
  ...tracks.map(({ id }) => fileOf({ of: 'track', key: id }, `track-${id}`)),
]
const SECONDS = 600
const { residual } = await mixInto(files, planOf(false))
const begun = performance.now()
await mixInto(files, planOf(true))
const seconds = (performance.now() - begun) / 1000
report({
  name: 'turnover.residual',
  value: residual ?? NaN,
  unit: 'dBFS: the highest sample of the untreated mix without its six stems (at most -120)',
})
const realtime = {
  name: 'turnover.realtime',
  value: SECONDS / seconds,
  unit: `x real time: mix, six stems, 24 tracks in one pass, treated and measured (${files.length} files)`,
}
if (process.env['YODEL_BENCH_PEER'] === '0') {
  report(realtime)
  rmSync(folder, { recursive: true })
  process.exit(0)
}

// The peer: a chain a clip into an amix a stem, and the stems into the mix; loudness is not measured, treatment not made.
const stems = CATEGORIES.map((category, index) => {
  const own = clips.flatMap((clip, at) =>
    tracks.find(({ id }) => id === clip.trackId)?.category === category ? [`[c${at}]`] : [],
  )
  return `${own.join('')}amix=inputs=${own.length}:normalize=0:duration=longest,apad=whole_len=${LENGTH},atrim=end_sample=${LENGTH},asplit[s${index}][m${index}]`
})
const all = CATEGORIES.map((_, index) => `[m${index}]`).join('')
const mix = `${all}amix=inputs=${CATEGORIES.length}:normalize=0:duration=longest[mix]`
const script = path.join(folder, 'stems.txt')
writeFileSync(script, [...chains, ...stems, mix].join(';\n'))
const out = (label: string, name: string): string[] => [
  ...['-map', label, '-c:a', 'pcm_s24le', path.join(folder, `${name}.wav`)],
]
const outputs = [
  ...out('[mix]', 'their-mix'),
  ...CATEGORIES.flatMap((name, index) => out(`[s${index}]`, `their-${name}`)),
]
const peerBegun = performance.now()
execFileSync('ffmpeg', ['-v', 'error', '-y', ...inputs, '-filter_complex_script', script, ...outputs], {
  maxBuffer: 1 << 26,
})
const peerSeconds = (performance.now() - peerBegun) / 1000
report({ ...realtime, peer: 'ffmpeg, mix and stems, untreated', ratio: peerSeconds / seconds })
rmSync(folder, { recursive: true })
