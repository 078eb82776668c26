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

/** What three programs of others say of a WAV file: samples, rate, bits, channels, and when it begins, each as far as it says so. */
function asOthersReadIt(file: string): Record<'ffprobe' | 'soxi' | 'mediainfo', object> {
  const probe = JSON.parse(
    run('ffprobe', '-v', 'error', '-show_streams', '-show_format', '-of', 'json', file),
  ) as {
    streams: { duration_ts: number; sample_rate: string; bits_per_sample: number; channels: number }[]
    format: { tags?: Record<string, string> }
  }
  const { track } = (
    JSON.parse(run('mediainfo', '--Output=JSON', file)) as { media: { track: Record<string, string>[] } }
  ).media
  const audio = track.find((one) => one['@type'] === 'Audio') ?? {}
  const stream = probe.streams[0]!
  const soxi = (what: string): number => Number(run('soxi', what, file))
  return {
    ffprobe: {
      ...{ samples: stream.duration_ts, rate: Number(stream.sample_rate), bits: stream.bits_per_sample },
      ...{ channels: stream.channels, begins: Number(probe.format.tags?.['time_reference']) / SAMPLE_RATE },
    },
    soxi: { samples: soxi('-s'), rate: soxi('-r'), bits: soxi('-b'), channels: soxi('-c') },
    mediainfo: {
      ...{ samples: Number(audio['SamplingCount']), rate: Number(audio['SamplingRate']) },
      ...{
        bits: Number(audio['BitDepth']),
        channels: Number(audio['Channels']),
        begins: Number(audio['Delay']),
      },
    },
  }
}

function expectAs(file: string, { begins, ...facts }: { samples: number; begins: number }): void {
  const all = { ...facts, rate: SAMPLE_RATE, bits: 24, channels: 2 }
  const read = asOthersReadIt(file)
  expect(read, file).toEqual({ ffprobe: { ...all, begins }, soxi: all, mediainfo: { ...all, begins } })
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
    for (const { path: inside } of audio)
      expectAs(path.join(made, inside), { samples: 12 * SAMPLE_RATE, begins: 3600 })
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
    expectAs(file, { samples, begins: 3600 })
    expect(run('mediainfo', '--Output=General;%Format_Profile%', file).trim()).toBe('RF64')
  })
})
