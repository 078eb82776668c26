// The outline of a 20-minute stereo recording from its file; peer: ffmpeg decoding it to nothing.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { PeakCollector } from '@yodel/core'
import { decodeSound } from '../../apps/server/src/media/decode.js'
import { report } from './report.js'

const folder = mkdtempSync(path.join(tmpdir(), 'yodel-peaks-'))
const file = path.join(folder, 'long.wav')
execFileSync('ffmpeg', [
  '-v',
  'error',
  '-f',
  'lavfi',
  '-i',
  'anoisesrc=r=48000:d=1200:a=0.3',
  '-af',
  'pan=stereo|c0=c0|c1=0.5*c0',
  '-c:a',
  'pcm_s24le',
  file,
])
const time = async (work: () => unknown): Promise<number> => {
  const begun = performance.now()
  await work()
  return (performance.now() - begun) / 1000
}
const ours = async (): Promise<void> => {
  const collector = new PeakCollector()
  await decodeSound({ ffmpeg: 'ffmpeg' }, { file, channels: 2 }, (block) => collector.push(block, 2))
  collector.finish()
}
const peer = (): Buffer => execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'null', '-'])
await time(ours)
let ourBest = Infinity
let peerBest = Infinity
for (let round = 0; round < 3; round++) {
  ourBest = Math.min(ourBest, await time(ours))
  peerBest = Math.min(peerBest, await time(peer))
}
report({
  name: 'peaks',
  value: 1200 / ourBest,
  unit: 'x real time',
  peer: `ffmpeg to null, ${(1200 / peerBest).toFixed(0)} x`,
  ratio: peerBest / ourBest,
})
rmSync(folder, { recursive: true })
