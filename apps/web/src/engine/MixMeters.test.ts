import { describe, expect, it } from 'vitest'
import type { MixLevels } from './messages.js'
import { MixMeters } from './MixMeters.js'

/** A tone of 997 Hz in both channels, interleaved, 0.1 s at a time. @param peak - Linear. */
function tone(peak: number, piece: number): Float32Array {
  const samples = new Float32Array(9600)
  for (let frame = 0; frame < 4800; frame++) {
    const value = peak * Math.sin((2 * Math.PI * 997 * (piece * 4800 + frame)) / 48_000)
    samples[2 * frame] = value
    samples[2 * frame + 1] = value
  }
  return samples
}

describe('the loudness of the mix', () => {
  it('is that of ITU-R BS.1770 for each part, told with the whole', () => {
    const told: MixLevels[] = []
    const meters = new MixMeters((levels) => told.push(levels))
    for (let piece = 0; piece < 50; piece++) {
      meters.take('FX', tone(0.1, piece))
      meters.take('whole', tone(1, piece))
    }
    expect(told).toHaveLength(50)
    // A stereo sine of 997 Hz at 0 dBFS has 0 LUFS by the standard's own calibration (-3.01 a channel).
    expect(told.at(-1)?.whole?.integrated).toBeCloseTo(0, 1)
    expect(told.at(-1)?.FX?.integrated).toBeCloseTo(-20, 1)
    expect(told.at(-1)?.whole?.truePeak).toBeCloseTo(0, 1)
  })

  it('begins anew with each playing, and silence has a floor', () => {
    const told: MixLevels[] = []
    const meters = new MixMeters((levels) => told.push(levels))
    meters.take('whole', tone(1, 0))
    meters.reset()
    meters.take('whole', new Float32Array(9600))
    expect(told.at(-1)).toMatchObject({ whole: { truePeak: -144 } })
    expect(Object.keys(told.at(-1) ?? {})).toEqual(['whole'])
  })
})
