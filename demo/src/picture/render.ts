// Renders the demo's picture into demo/media: `npm run picture -w demo`. The results are committed.
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { createCanvas } from '@napi-rs/canvas'
import { FRAME_RATES, formatTimecode, packStereo24, wavHeader } from '@yodel/core'
import { drawFrame, HEIGHT, WIDTH } from './draw.js'
import { makeGuide } from './guide.js'
import { EVENTS, FPS, LEADER, PROGRAMME } from './story.js'

const FIRST = (3600 - 8) * FPS
const media = fileURLToPath(new URL('../../media', import.meta.url))

const temporary = await mkdtemp(path.join(tmpdir(), 'picture-'))
const guide = makeGuide()
const wav = path.join(temporary, 'guide.wav')
const header = wavHeader({ channels: 2, sampleRate: 48_000, bits: 24, length: guide.length })
await writeFile(wav, Buffer.concat([header, packStereo24(guide, guide, guide.length).bytes]))

const args = [
  ...[
    '-v',
    'error',
    '-y',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'rgba',
    '-s',
    `${WIDTH}x${HEIGHT}`,
    '-r',
    String(FPS),
    '-i',
    'pipe:0',
    '-i',
    wav,
  ],
  ...[
    '-c:v',
    'libx264',
    '-preset',
    'slow',
    '-crf',
    '27',
    '-pix_fmt',
    'yuv420p',
    '-c:a',
    'aac',
    '-ac',
    '1',
    '-b:a',
    '80k',
  ],
  ...[
    '-timecode',
    '00:59:52:00',
    '-movflags',
    '+faststart',
    '-fflags',
    '+bitexact',
    path.join(media, 'reel1-cut3.mp4'),
  ],
]
const ffmpeg = spawn('ffmpeg', args, { stdio: ['pipe', 'inherit', 'inherit'] })
const canvas = createCanvas(WIDTH, HEIGHT)
const g = canvas.getContext('2d')
for (let frame = 0; frame < LEADER + PROGRAMME; frame++) {
  drawFrame(g, frame, formatTimecode(FIRST + frame, FRAME_RATES['24']))
  const { data } = g.getImageData(0, 0, WIDTH, HEIGHT)
  if (!ffmpeg.stdin.write(Buffer.from(data.buffer, data.byteOffset, data.byteLength)))
    await once(ffmpeg.stdin, 'drain')
}
ffmpeg.stdin.end()
await once(ffmpeg, 'close')
await writeFile(path.join(media, 'reel1-cut3.events.json'), `${JSON.stringify(EVENTS, null, 1)}\n`)
await rm(temporary, { recursive: true })
