import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import {
  documentOf,
  SAMPLE_RATE as RATE,
  SHIPPED_RECIPES,
  type Recipe,
  type ReelState,
  type Shelf,
} from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { makePlacedReel, turnOver as turnOverReel } from '../test/placedReel.js'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let reel: string
const [TO_MIX, , TO_EDITOR] = SHIPPED_RECIPES as unknown as [Recipe, Recipe, Recipe]

beforeAll(async () => {
  server = await startTestServer()
  reel = await makePlacedReel(server)
})
afterAll(() => server.close())

const turnOver = (recipe: Recipe, name?: string): ReturnType<typeof turnOverReel> =>
  turnOverReel(server, reel, recipe, name)

let toEditor: Promise<Buffer> | null = null
/** The package for another editor, made once. */
const editorsPackage = (): Promise<Buffer> =>
  (toEditor ??= turnOver(TO_EDITOR).then(async ({ id }) => {
    return (await server.app.inject(`/api/turnovers/${id}/package.zip`)).rawPayload
  }))

const filesOf = async (id: string): Promise<{ path: string; sha256: string; size: number; kind: string }[]> =>
  (await server.app.inject(`/api/turnovers/${id}`)).json<{ files: never[] }>().files

/** Samples of a 24-bit stereo WAV, as ffmpeg reads it. */
function samplesOf(file: string): Int32Array {
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 's32le', '-'], {
    maxBuffer: 1 << 28,
  })
  return new Int32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length)).map(
    (v) => v >> 8,
  )
}

describe('a turnover to the mix', () => {
  it('holds lists, audio and sounds, each with the checksum that sha256sum finds', async () => {
    const { id, folder, kept } = await turnOver(TO_MIX)
    expect(kept).toMatchObject({ number: 1, name: 'Pre-dub', by: 'Tester', seq: 3 })
    const files = await filesOf(id)
    expect(files.length).toBe(kept.files)
    for (const { path: inside, sha256, size } of files) {
      const [found] = execFileSync('sha256sum', [path.join(folder, inside)])
        .toString()
        .split(' ')
      expect([inside, found, readFileSync(path.join(folder, inside)).length]).toEqual([inside, sha256, size])
    }
    const count = (wanted: string): number => files.filter(({ kind }) => kind === wanted).length
    // The mix, three stems, three tracks; four parts of three recordings: the rain is heard in two places far apart.
    expect([count('audio'), count('sound')]).toEqual([7, 4])
    const text = execFileSync('pdftotext', ['-layout', path.join(folder, 'report.pdf'), '-']).toString()
    expect(text).toMatch(/Pre-dub/)
    expect(text).toMatch(/differs from the mix by -1[2-9]\d\.\d dBFS|to the last bit/)
    expect(text).toMatch(
      /One recording is played at another speed, backwards, on the move or by some of its channels/,
    )
  })

  it('has stems and tracks whose sums are the mix, rounded once each', async () => {
    const { folder } = await turnOver({ ...TO_MIX, twoPop: false })
    const audio = (await filesOf(path.basename(folder))).filter(({ kind }) => kind === 'audio')
    const read = (wanted: RegExp): Int32Array[] =>
      audio
        .filter(({ path: inside }) => wanted.test(inside))
        .map(({ path: inside }) => samplesOf(path.join(folder, inside)))
    const [mix] = read(/_mix\.wav$/) as [Int32Array]
    expect(mix.length).toBe(2 * 12 * RATE)
    expect(mix.some((value) => Math.abs(value) > 100_000)).toBe(true)
    for (const parts of [read(/_stem-/), read(/_(FX|BG|FOL)-/)]) {
      expect(parts).toHaveLength(3)
      let most = 0
      for (let i = 0; i < mix.length; i++)
        most = Math.max(
          most,
          Math.abs(parts.reduce((sum, part) => sum + (part[i] as number), 0) - (mix[i] as number)),
        )
      expect(most).toBeLessThanOrEqual(2)
    }
  })

  it('states loudness as ffmpeg’s ebur128 measures it, and carries a time reference that ffprobe reads, and an iXML', async () => {
    const { folder, id, kept } = await turnOver({ ...TO_MIX, twoPop: false, stems: false, tracks: false })
    const inside = (await filesOf(id)).find(({ kind }) => kind === 'audio')?.path ?? ''
    const file = path.join(folder, inside)
    const probe = execFileSync('ffprobe', [
      '-v',
      'error',
      '-show_entries',
      'stream=codec_name,sample_rate:format_tags',
      '-of',
      'json',
      file,
    ])
    const { format, streams } = JSON.parse(probe.toString()) as {
      format: { tags: Record<string, string> }
      streams: object[]
    }
    expect(streams[0]).toMatchObject({ codec_name: 'pcm_s24le', sample_rate: '48000' })
    expect(format.tags['time_reference']).toBe(String(3600 * RATE))
    const heard = execFileSync('sh', [
      '-c',
      `ffmpeg -nostats -i "${file}" -af ebur128=peak=true -f null - 2>&1`,
    ]).toString()
    const summary = heard.slice(heard.lastIndexOf('Summary'))
    const told = (pattern: RegExp): number => Number(pattern.exec(summary)?.[1])
    const bytes = readFileSync(file)
    const at = bytes.indexOf('bext') + 8
    const stated = (offset: number): number => bytes.readInt16LE(at + offset) / 100
    expect(bytes.readUInt16LE(at + 346)).toBe(2)
    expect(Math.abs(stated(412) - told(/I:\s+(-?[\d.]+) LUFS/))).toBeLessThanOrEqual(0.11)
    expect(Math.abs(stated(416) - told(/Peak:\s+(-?[\d.]+) dBFS/))).toBeLessThanOrEqual(0.2)
    expect(kept.measured?.loudness).toBeCloseTo(stated(412), 1)
    expect(bytes.toString('utf8')).toContain(
      '<TIMECODE_RATE>24/1</TIMECODE_RATE><TIMECODE_FLAG>NDF</TIMECODE_FLAG>',
    )
  })

  it('is the same to the bit when it is made again', async () => {
    const again: Recipe = { ...TO_MIX, sounds: 'none', lists: [] }
    const first = await turnOver(again)
    // Three days later: names of files may have the day in them, the files have not.
    vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + 3 * 24 * 3600 * 1000 })
    const second = await turnOver(again).finally(() => vi.useRealTimers())
    const sums = async (id: string): Promise<string[]> =>
      (await filesOf(id)).filter(({ kind }) => kind === 'audio').map(({ sha256 }) => sha256)
    expect(await sums(first.id)).toEqual(await sums(second.id))
  })
})

describe('a package', () => {
  it('is a ZIP that unzip finds whole, and goes on where a download broke off', async () => {
    const { id } = await turnOver(TO_EDITOR)
    const url = `/api/turnovers/${id}/package.zip`
    const whole = await server.app.inject(url)
    const file = path.join(server.dataDir, 'whole.zip')
    writeFileSync(file, whole.rawPayload)
    expect(execFileSync('unzip', ['-t', file]).toString()).toMatch(/No errors detected/)
    const size = whole.rawPayload.length
    const parts = await Promise.all(
      [`bytes=0-999`, `bytes=1000-${size - 501}`, 'bytes=-500'].map((range) =>
        server.app.inject({ url, headers: { range } }),
      ),
    )
    expect(parts.map(({ statusCode }) => statusCode)).toEqual([206, 206, 206])
    expect(Buffer.concat(parts.map(({ rawPayload }) => rawPayload)).equals(whole.rawPayload)).toBe(true)
    expect((await server.app.inject({ url, headers: { range: `bytes=${size}-` } })).statusCode).toBe(416)
  })

  it.each([
    ['whole recordings', TO_EDITOR],
    ['parts with handles', { ...TO_EDITOR, sounds: 'cut', handles: 0.5 }],
  ] as const)('of %s opened on an empty Yodel bounces to the same bytes', async (_, recipe) => {
    const { id } = await turnOver(recipe)
    const other = await startTestServer()
    try {
      const opened = await open(
        other,
        (await server.app.inject(`/api/turnovers/${id}/package.zip`)).rawPayload,
      )
      expect(opened).toMatchObject({ state: 'done' })
      const there = (opened.result as { reelId: string }).reelId
      expect(await bounceSum(other, there)).toBe(await bounceSum(server, reel))
      const state = (await other.app.inject(`/api/reels/${there}`)).json<ReelState>()
      expect(documentOf(state.records).clip.size).toBe(4)
      const milestones = (await other.app.inject(`/api/reels/${there}/milestones`)).json<{ name: string }[]>()
      expect(milestones.map(({ name }) => name)).toEqual(['tracks'])
      expect((await other.app.inject('/api/shelves')).json<Shelf[]>()).toHaveLength(1)
    } finally {
      await other.close()
    }
  })

  it.each([
    ['cut short', (zip: Buffer) => zip.subarray(0, zip.length - 900), /no whole ZIP/],
    ['with a byte changed in its manifest', changed('manifest.json', 700), /manifest is damaged/],
    [
      'with a byte changed in a recording',
      changed('sounds/door.wav', 5000),
      /sounds\/door\.wav can’t be read|sounds\/door\.wav is not what it was/,
    ],
    [
      'of a newer version',
      replaced('"version": 1', '"version": 9'),
      /is of version 9; this Yodel reads up to version 1/,
    ],
    [
      'with a path that leads out',
      replaced('"path": "sounds/door.wav"', '"path": "../nds/door.wav"'),
      /manifest is damaged at .*leads out of the package/,
    ],
    ['that is something else', () => Buffer.from('PK\u0003\u0004 nothing'), /no whole ZIP/],
  ])('%s is refused with what is wrong, and nothing of it stays', async (_, spoil, message) => {
    const zip = await editorsPackage()
    const before = await server.services.db.query('SELECT count(*) FROM reel, shelf')
    const opened = await open(server, spoil(Buffer.from(zip)))
    expect(opened).toMatchObject({ state: 'failed', message: expect.stringMatching(message) as string })
    expect(await server.services.db.query('SELECT count(*) FROM reel, shelf')).toEqual(before)
    for (const folder of ['opened', 'incoming'])
      expect(execFileSync('find', [path.join(server.dataDir, folder), '-type', 'f']).toString()).toBe('')
  })
})

/** Sends a package and waits for what becomes of it. */
async function open(to: TestServer, zip: Buffer): Promise<Awaited<ReturnType<TestServer['settled']>>> {
  const form = new FormData()
  form.append('file', new Blob([zip]), 'package.zip')
  const answer = await to.app.inject({ method: 'POST', url: '/api/packages', payload: form as never })
  return to.settled(answer.json<{ jobId: string }>().jobId)
}

/** SHA-256 of the bounced mix of a reel. */
async function bounceSum(of: TestServer, id: string): Promise<string> {
  const { jobId } = (await of.app.inject({ method: 'POST', url: `/api/reels/${id}/bounce` })).json<{
    jobId: string
  }>()
  expect(await of.settled(jobId)).toMatchObject({ state: 'done' })
  return createHash('sha256')
    .update((await of.app.inject(`/api/bounces/${jobId}`)).rawPayload)
    .digest('hex')
}

/** Changes a byte some way into an entry of a ZIP. */
function changed(entry: string, into: number): (zip: Buffer) => Buffer {
  return (zip) => {
    let name = zip.indexOf(entry)
    // Its local header, not where the manifest speaks of it.
    while (zip.readUInt32LE(name - 30) !== 0x0403_4b50) name = zip.indexOf(entry, name + 1)
    const at = name + entry.length + into
    zip[at] = (zip[at] as number) ^ 0xff
    return zip
  }
}

/** Replaces a text of the same length in the manifest, which is stored as it is; its CRC is put right. */
function replaced(old: string, fresh: string): (zip: Buffer) => Buffer {
  return (zip) => {
    const folder = path.join(server.dataDir, 'spoilt')
    rmSync(folder, { recursive: true, force: true })
    mkdirSync(folder)
    writeFileSync(path.join(folder, 'a.zip'), zip)
    execFileSync('unzip', ['-q', '-o', 'a.zip', '-d', 'in'], { cwd: folder })
    const manifest = path.join(folder, 'in', 'manifest.json')
    const text = readFileSync(manifest, 'utf8')
    expect(text).toContain(old)
    writeFileSync(manifest, text.replace(old, fresh))
    execFileSync('python3', ['-m', 'zipfile', '-c', '../b.zip', '.'], { cwd: path.join(folder, 'in') })
    return readFileSync(path.join(folder, 'b.zip'))
  }
}
