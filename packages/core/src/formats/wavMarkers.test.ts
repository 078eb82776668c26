import { frames } from '../time/units.js'
import wavefile from 'wavefile'
import { describe, expect, it } from 'vitest'
import { expectOk } from '../errors.js'
import { markerSheet } from './readSheet.js'
import { readWavMarkers } from './wavMarkers.js'
import { wavHeader } from './wav.js'

const reader = (bytes: Uint8Array) => (at: number, size: number) =>
  Promise.resolve(bytes.subarray(at, at + size))

describe('markers of a WAV file', () => {
  it('are those that another library wrote (wavefile)', async () => {
    const wav = new wavefile.WaveFile()
    wav.fromScratch(1, 44_100, '16', new Int16Array(100_001))
    wav.setCuePoint({ position: 1000, label: 'kettle lid' })
    wav.setCuePoint({ position: 2000, end: 2500, label: 'pour' })
    const bytes = wav.toBuffer()
    const found = expectOk(await readWavMarkers(reader(bytes), bytes.length))
    // Its positions are milliseconds.
    expect(found).toEqual({
      sampleRate: 44_100,
      timeReference: null,
      markers: [
        { sample: 44_100, length: 0, words: 'kettle lid' },
        { sample: 88_200, length: 22_050, words: 'pour' },
      ],
    })
    const sheet = expectOk(
      markerSheet(found, { rate: '24', firstFrame: frames(86_208), programme: frames(192) }),
    )
    expect(sheet.rows.slice(1)).toEqual([
      ['01:00:01:00', '', 'kettle lid'],
      ['01:00:02:00', '01:00:02:12', 'pour'],
    ])
  })
  it('refuses other files, and one without markers', async () => {
    expect(await readWavMarkers(reader(new Uint8Array(40)), 40)).toMatchObject({
      ok: false,
      code: 'CORE_NOT_WAV',
    })
    const empty = wavHeader({ channels: 1, sampleRate: 48_000, bits: 24, length: 0 })
    const found = expectOk(await readWavMarkers(reader(empty), empty.length))
    expect(markerSheet(found, { rate: '24', firstFrame: frames(0), programme: frames(0) })).toMatchObject({
      ok: false,
    })
  })
})
