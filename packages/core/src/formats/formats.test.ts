import wavefile from 'wavefile'
import { describe, expect, it } from 'vitest'
import { spotCue } from '../edits/spotCue.js'
import { expectOk } from '../errors.js'
import { apply } from '../reel/change.js'
import { testReel } from '../test/testReel.js'
import { cueListCsv } from '../turnover/cueList.js'
import { fileName } from '../turnover/nameFiles.js'
import { csvCell } from './csv.js'
import { packStereo24, readBext, wavChunks, wavHeader, type Bext } from './wav.js'

const bext: Bext = {
  description: 'Reel 1',
  originator: 'Yodel',
  originatorReference: 'x',
  date: '2026-11-23',
  time: '12:00:00',
  timeReference: 5_000_000_123,
  codingHistory: 'A=PCM',
}

describe('WAV', () => {
  it('is read back by wavefile from the registry: format, bext, samples', () => {
    const left = Float32Array.of(0, 0.5, -1, 1.5)
    const packed = packStereo24(left, Float32Array.of(0, -0.5, 0.25, 0), 4)
    expect(packed.overs).toBe(1)
    const header = wavHeader({
      channels: 2,
      sampleRate: 48_000,
      bits: 24,
      length: 4,
      bext,
      ixml: new Uint8Array([60, 97, 62]),
    })
    const bytes = new Uint8Array([...header, ...packed.bytes])
    const read = new wavefile.WaveFile(bytes)
    expect(read.fmt).toMatchObject({ numChannels: 2, sampleRate: 48_000, bitsPerSample: 24 })
    const chunk = read.bext as { timeReference: [number, number]; originator: string }
    expect(chunk.timeReference[0] + chunk.timeReference[1] * 2 ** 32).toBe(5_000_000_123)
    expect([...(read.getSamples(false, Int32Array) as unknown as Int32Array[])[0]!]).toEqual([
      0, 4_194_304, -8_388_608, 8_388_607,
    ])
    expect(readBext(bytes)).toEqual(bext)
  })
  it('becomes RF64 beyond 4 GB, with the sizes in ds64 (EBU Tech 3306)', () => {
    const header = wavHeader({ channels: 2, sampleRate: 48_000, bits: 24, length: 2 ** 30 })
    const view = new DataView(header.buffer)
    expect(String.fromCharCode(...header.subarray(0, 4))).toBe('RF64')
    expect(view.getUint32(4, true)).toBe(0xffffffff)
    expect(view.getUint32(28, true) + view.getUint32(32, true) * 2 ** 32).toBe(6 * 2 ** 30)
  })
  it('refuses what is not a WAV', () => {
    expect(wavChunks(new Uint8Array(100))).toMatchObject({ ok: false, code: 'CORE_NOT_WAV' })
    expect(readBext(new Uint8Array(3))).toBeNull()
  })
})

describe('lists', () => {
  const spotted = expectOk(
    apply(
      testReel({ rate: '29.97d', firstFrame: 107_892 }),
      expectOk(
        spotCue(testReel(), { id: 'q', category: 'FX', in: 1799, out: 1800, words: '=SUM(1), "heavy"' }),
      ),
    ),
  )
  it('neutralises formulas and quotes (RFC 4180)', () => {
    expect(csvCell('=1+1')).toBe("'=1+1")
    expect(csvCell('a "b", c')).toBe('"a ""b"", c"')
    expect(cueListCsv(spotted)).toContain(`"'=SUM(1), ""heavy"""`)
  })
  it('writes drop-frame timecode across the dropped numbers', () => {
    expect(cueListCsv(spotted)).toContain('FX 001,FX,01:00:59;29,01:01:00;02')
  })
  it('makes safe file names in any script', () => {
    expect(fileName('Šhow / ../x', 'Reel 1')).toBe('Šhow-x_Reel-1')
    expect(fileName('///')).toBe('untitled')
  })
})
