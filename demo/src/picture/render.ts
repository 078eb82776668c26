// Renders a reel of the demo into demo/media: `npm run picture -w demo -- 2`. The results are committed.
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { createCanvas } from '@napi-rs/canvas'
import { formatTimecode, packStereo24, wavHeader } from '@yodel/core'
import { drawFrame, HEIGHT, WIDTH } from './draw.js'
import { makeGuide } from './guide.js'
import { REEL_1, REEL_2 } from './story.js'

const story = process.argv[2] === '2' ? REEL_2 : REEL_1
const { rate, facts } = story
const media = fileURLToPath(new URL('../../media', import.meta.url))

const temporary = await mkdtemp(path.join(tmpdir(), 'picture-'))
const guide = makeGuide(story)
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
    `${rate.num}/${rate.den}`,
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
    facts.first,
    '-movflags',
    '+faststart',
    '-fflags',
    '+bitexact',
    path.join(media, `${facts.file}.mp4`),
  ],
]
const ffmpeg = spawn('ffmpeg', args, { stdio: ['pipe', 'inherit', 'inherit'] })
const canvas = createCanvas(WIDTH, HEIGHT)
const g = canvas.getContext('2d')
for (let frame = 0; frame < story.length; frame++) {
  drawFrame(g, story, frame, formatTimecode(story.first + frame, rate))
  const { data } = g.getImageData(0, 0, WIDTH, HEIGHT)
  if (!ffmpeg.stdin.write(Buffer.from(data.buffer, data.byteOffset, data.byteLength)))
    await once(ffmpeg.stdin, 'drain')
}
ffmpeg.stdin.end()
await once(ffmpeg, 'close')
await writeFile(path.join(media, `${facts.file}.events.json`), `${JSON.stringify(story.events, null, 1)}\n`)
await rm(temporary, { recursive: true })
