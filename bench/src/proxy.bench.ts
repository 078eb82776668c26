// Five minutes of moving 1080p24 brought in: until the first frame can be seen, until all is made, and ffmpeg decoding the movie
// and encoding it at the proxy's setting in one pass, in the same run.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { Picture } from '@yodel/core'
import { realServer } from '../../e2e/support/server.js'
import { report } from './report.js'

const SECONDS = Number(process.env['YODEL_BENCH_SECONDS'] ?? 300)
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-proxy-'))
const movie = path.join(folder, 'moving.mov')
const run = (...args: string[]): void => {
  execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...args])
}
run(
  ...['-f', 'lavfi', '-i', `testsrc2=size=1920x1080:rate=24:duration=${SECONDS}`],
  ...['-f', 'lavfi', '-i', `sine=frequency=220:beep_factor=4:sample_rate=48000:duration=${SECONDS}`],
  ...[
    '-vf',
    'noise=alls=12:allf=t',
    '-c:v',
    'libx264',
    '-preset',
    'ultrafast',
    '-crf',
    '20',
    '-c:a',
    'pcm_s16le',
  ],
  movie,
)
const server = await realServer({ demo: false, roots: folder })
const get = async <T>(url: string): Promise<T> => (await (await fetch(server.url + url)).json()) as T
const begun = performance.now()
const since = (): number => (performance.now() - begun) / 1000
const answer = await fetch(`${server.url}/api/pictures/pick`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ path: movie }),
})
const { id } = (await answer.json()) as Picture
let first = 0
let whole = 0
while (whole === 0) {
  const { state, made, message } = await get<Picture>(`/api/pictures/${id}`)
  if (state === 'failed') throw new Error(message)
  if (first === 0 && made > 0) {
    // What can be seen is what can be fetched.
    const index = new Float64Array(
      await (await fetch(`${server.url}/api/pictures/${id}/index`)).arrayBuffer(),
    )
    const frame = await fetch(`${server.url}/api/pictures/${id}/frames`, {
      headers: { range: `bytes=0-${(index[1] ?? 1) - 1}` },
    })
    if (frame.status === 206) first = since()
  }
  if (state === 'ready') whole = since()
  else await new Promise((resolve) => setTimeout(resolve, 50))
}
const made = path.join(server.dataDir, 'pictures', id)
const disk = readdirSync(made).reduce((sum, file) => sum + statSync(path.join(made, file)).size, 0)
await server.close()

const peerBegun = performance.now()
run(
  ...['-i', movie, '-map', '0:V:0', '-vf', 'scale=640:360,format=yuv420p', '-fps_mode', 'passthrough'],
  ...['-c:v', 'libx264', '-profile:v', 'baseline', '-preset', 'veryfast', '-crf', '24'],
  ...['-x264-params', 'keyint=1:scenecut=0:bframes=0', '-f', 'h264', path.join(folder, 'peer.h264')],
)
const peer = (performance.now() - peerBegun) / 1000
report({ name: 'proxy.first', value: first, unit: 's until the first frame can be seen (at most 5)' })
report({
  ...{ name: 'proxy.whole', value: whole, unit: `s for ${SECONDS} s of 1080p24: proxy, strip, cuts, guide` },
  ...{ peer: 'ffmpeg, one pass to the proxy alone', ratio: peer / whole },
})
report({ name: 'proxy.disk', value: disk / 1e6 / (SECONDS / 60), unit: 'MB a minute' })
rmSync(folder, { recursive: true })
