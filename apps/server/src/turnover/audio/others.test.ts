import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { SAMPLE_RATE, SHIPPED_RECIPES, wavHeader, type Recipe } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makePlacedReel, turnOver } from '../../test/placedReel.js'
import { startTestServer, type TestServer } from '../../test/testServer.js'

const folder = mkdtempSync(path.join(tmpdir(), 'yodel-others-'))
const run = (program: string, ...args: string[]): string => execFileSync(program, args).toString()
let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(async () => {
  await server.close()
  rmSync(folder, { recursive: true })
})

/** What a WAV file is: samples, rate, bits, channels, and when it begins, as far as a program says so. */
interface Read {
  readonly samples: number
  readonly rate: number
  readonly bits: number
  readonly channels: number
  readonly begins?: number
}

function byFfprobe(file: string): Read {
  const { streams, format } = JSON.parse(
    run('ffprobe', '-v', 'error', '-show_streams', '-show_format', '-of', 'json', file),
  ) as {
    streams: { duration_ts: number; sample_rate: string; bits_per_sample: number; channels: number }[]
    format: { tags?: Record<string, string> }
  }
  const { duration_ts: samples, sample_rate, bits_per_sample: bits, channels } = streams[0]!
  const begins = Number(format.tags?.['time_reference']) / SAMPLE_RATE
  return { samples, rate: Number(sample_rate), bits, channels, begins }
}

function byMediainfo(file: string): Read {
  const { media } = JSON.parse(run('mediainfo', '--Output=JSON', file)) as {
    media: { track: Record<string, string>[] }
  }
  const audio = media.track.find((one) => one['@type'] === 'Audio') ?? {}
  const [samples, rate, bits, channels, begins] = [
    ...['SamplingCount', 'SamplingRate', 'BitDepth', 'Channels', 'Delay'].map((key) => Number(audio[key])),
  ] as [number, number, number, number, number]
  return { samples, rate, bits, channels, begins }
}

function bySoxi(file: string): Read {
  const said = (what: string): number => Number(run('soxi', what, file))
  return { samples: said('-s'), rate: said('-r'), bits: said('-b'), channels: said('-c') }
}

describe('what ffprobe, soxi and mediainfo read', () => {
  it('is what every file of a turnover is: mix, stems and tracks', async () => {
    const reel = await makePlacedReel(server)
    const recipe: Recipe = { ...(SHIPPED_RECIPES[0] as Recipe), sounds: 'none', lists: [] }
    const { id, folder: made } = await turnOver(server, reel, recipe)
    const { files } = (await server.app.inject(`/api/turnovers/${id}`)).json<{
      files: { path: string; kind: string }[]
    }>()
    const audio = files.filter(({ kind }) => kind === 'audio')
    expect(audio.length).toBe(1 + 3 + 3)
    const whole = { samples: 12 * SAMPLE_RATE, rate: SAMPLE_RATE, bits: 24, channels: 2 }
    for (const { path: inside } of audio) {
      const file = path.join(made, inside)
      expect(byFfprobe(file), inside).toEqual({ ...whole, begins: 3600 })
      expect(byMediainfo(file), inside).toEqual({ ...whole, begins: 3600 })
      expect(bySoxi(file), inside).toEqual(whole)
    }
  })

  it('is whole beyond 4 GiB, where it is RF64', () => {
    const file = path.join(folder, 'long.wav')
    const samples = 800_000_000
    const bext = {
      ...{ description: '', originator: '', originatorReference: '', codingHistory: '' },
      ...{ date: '2031-05-09', time: '12:00:00', timeReference: 3600 * SAMPLE_RATE },
    }
    const header = wavHeader({ channels: 2, sampleRate: SAMPLE_RATE, bits: 24, length: samples, bext })
    writeFileSync(file, header)
    // Full of holes: it takes no room.
    truncateSync(file, header.length + 6 * samples)
    const whole = { samples, rate: SAMPLE_RATE, bits: 24, channels: 2, begins: 3600 }
    expect(byFfprobe(file)).toEqual(whole)
    // soxi reads it as well, but for a minute: it goes through all of it (tried by hand).
    expect(byMediainfo(file)).toEqual(whole)
    expect(run('mediainfo', '--Output=General;%Format_Profile%', file).trim()).toBe('RF64')
  })
})
