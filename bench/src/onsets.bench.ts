// How well the guide's onsets and the picture's cuts, as the server computes them, find the demo reel's scripted events.
import { execFileSync } from 'node:child_process'
import { FRAME_RATES, MOVEMENT_SIZE, MovementMeter, OnsetDetector, nearestFrame } from '@yodel/core'
import { DEMO_MOVIE, EVENTS, LEADER, REEL_1 } from '@yodel/demo'
import { report } from './report.js'

const WITHIN = 1
const rate = FRAME_RATES['24']
const decode = (...args: string[]): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', DEMO_MOVIE, ...args, '-'], { maxBuffer: 2 ** 30 })

/** Prints recall and precision of found frames against true ones. */
function judge(name: string, found: readonly number[], truth: readonly number[]): void {
  const near = (frame: number, others: readonly number[]): boolean =>
    others.some((other) => Math.abs(other - frame) <= WITHIN)
  const missed = truth.filter((frame) => !near(frame, found))
  const extra = found.filter((frame) => !near(frame, truth))
  if (process.env['YODEL_BENCH_SAY'])
    console.error(
      name,
      'missed',
      missed.map((frame) => `${frame} ${EVENTS.find((event) => event.frame === frame)?.what ?? ''}`),
      'extra',
      extra,
    )
  report({ name: `${name}.recall`, value: (100 * (truth.length - missed.length)) / truth.length, unit: '%' })
  report({
    name: `${name}.precision`,
    value: (100 * (found.length - extra.length)) / found.length,
    unit: '%',
  })
}

const pcm = decode('-vn', '-ac', '1', '-ar', '48000', '-f', 'f32le')
const detector = new OnsetDetector()
detector.push(new Float32Array(pcm.buffer.slice(pcm.byteOffset, pcm.byteOffset + pcm.byteLength)))
judge(
  'onsets.guide',
  detector.finish().map(({ at }) => nearestFrame(at, rate)),
  [...new Set(EVENTS.map((event) => event.frame))],
)

const { width, height } = MOVEMENT_SIZE
const grey = decode('-an', '-vf', `scale=${width}:${height}:flags=area,format=gray`, '-f', 'rawvideo')
const meter = new MovementMeter()
for (let at = 0; at < grey.length; at += width * height) meter.push(grey.subarray(at, at + width * height))
// The leader's countdown changes with every number; shots begin with the programme.
judge(
  'onsets.cuts',
  meter.finish().cuts.filter((frame) => frame >= LEADER),
  REEL_1.shots.map((shot) => LEADER + shot.from),
)
