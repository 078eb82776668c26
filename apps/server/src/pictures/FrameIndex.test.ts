import { execFileSync } from 'node:child_process'
import { appendFileSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { ffmpeg } from '../test/testServer.js'
import { FrameIndex } from './FrameIndex.js'

const folder = mkdtempSync(path.join(tmpdir(), 'yodel-frames-'))
afterAll(() => rmSync(folder, { recursive: true }))
const stream = readFileSync(
  ffmpeg(
    path.join(folder, 'whole.h264'),
    ...['-f', 'lavfi', '-i', 'testsrc=size=320x180:rate=25', '-frames:v', '40', '-c:v', 'libx264'],
    ...['-x264-params', 'keyint=1:aud=1:annexb=1:repeat-headers=1:bframes=0', '-f', 'h264'],
  ),
)

it('finds each frame of a stream that grows, wherever it is cut and however often it is looked at', async () => {
  const file = path.join(folder, 'growing.h264')
  const index = new FrameIndex(file)
  await index.scan()
  expect([index.whole, index.entries()]).toEqual([0, new Float64Array(0)])
  writeFileSync(file, '')
  // Pieces of a length that cuts marks in two, and several looks at once.
  for (let at = 0; at < stream.length; at += 997) {
    appendFileSync(file, stream.subarray(at, at + 997))
    await Promise.all([index.scan(), index.scan(), index.scan()])
    expect(index.entries().length).toBe(index.whole === 0 ? 0 : index.whole + 1)
  }
  expect(index.whole).toBe(39)
  const starts = await index.finish()
  expect([starts.length, starts[0], starts.at(-1)]).toEqual([41, 0, stream.length])
  // What lies between two entries is one frame, as ffprobe counts them.
  for (const frame of [0, 17, 39]) {
    const alone = path.join(folder, `${frame}.h264`)
    writeFileSync(alone, stream.subarray(starts[frame], starts[frame + 1]))
    const args = [
      '-v',
      'error',
      '-count_frames',
      '-show_entries',
      'stream=nb_read_frames',
      '-of',
      'csv=p=0',
      alone,
    ]
    expect(Number(execFileSync('ffprobe', args).toString())).toBe(1)
  }
})
