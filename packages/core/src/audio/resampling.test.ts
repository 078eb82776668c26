import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { Mixer } from './mixer.js'
import { planOfVoices } from './renderPlan.js'

const RATE = 48_000
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-sox-'))
afterAll(() => rmSync(folder, { recursive: true }))

/** A second that rises from one frequency to another, in Hz, and fades in and out, so that its ends say nothing. */
const sweep = (from: number, to: number): Float32Array =>
  Float32Array.from({ length: RATE }, (_, i) => {
    const t = i / RATE
    return 0.5 * Math.sin(Math.PI * t) ** 2 * Math.sin(2 * Math.PI * (from * t + ((to - from) * t * t) / 2))
  })

function ours(source: Float32Array, speed: number): Float32Array {
  const recorded = Math.floor(source.length / speed)
  const left = new Float32Array(recorded)
  const voice = {
    mediaId: 'm',
    start: 0,
    end: recorded,
    offset: 0,
    gain: 1,
    fadeIn: 0,
    fadeOut: 0,
    fadeInShape: 'linear',
    fadeOutShape: 'linear',
  } as const
  // Placed hard left, mono sound keeps its level there.
  const plan = planOfVoices([{ ...voice, played: { speed, reverse: false, sides: 'kept', recorded } }], {
    pan: -1,
  })
  new Mixer(plan, () => ({ from: 0, channels: [source] })).render(
    left,
    new Float32Array(recorded),
    0,
    recorded,
  )
  return left
}

function sox(source: Float32Array, speed: number): Float32Array {
  const [file, out] = [path.join(folder, 'in.f32'), path.join(folder, 'out.f32')]
  writeFileSync(file, new Uint8Array(source.buffer))
  // Very high quality, linear phase, no dither.
  execFileSync('sox', [
    '-D',
    '-t',
    'f32',
    '-r',
    String(RATE),
    '-c',
    '1',
    file,
    '-t',
    'f32',
    out,
    'speed',
    String(speed),
    'rate',
    '-v',
    '-L',
    String(RATE),
  ])
  const bytes = readFileSync(out)
  return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4)
}

const worstDb = (a: Float32Array, b: Float32Array): number =>
  20 *
  Math.log10(
    Math.max(...Array.from({ length: Math.min(a.length, b.length) }, (_, i) => Math.abs(a[i]! - b[i]!))) +
      1e-12,
  )

// Residuals found: -90 dB at speed 0.5 to -98 dB at speed 2, below the last bit of 16 bits either way.
it.each([[0.5], [0.8], [1.25], [2], [3]])(
  'plays a swept tone at speed %f as sox resamples it, within -85 dBFS',
  (speed) => {
    const source = sweep(40, Math.min(18_000, 18_000 / speed))
    expect(worstDb(ours(source, speed), sox(source, speed))).toBeLessThan(-85)
  },
)

it.each([[1.5], [2], [3]])(
  'at speed %f leaves nothing, as sox does, of a sweep from a fifth above what can stay up to 23.5 kHz',
  (speed) => {
    const high = sweep((24_000 * 1.2) / speed, 23_500)
    expect(worstDb(ours(high, speed), sox(high, speed))).toBeLessThan(-75)
    expect(worstDb(sox(high, speed), new Float32Array(RATE))).toBeLessThan(-75)
  },
)
