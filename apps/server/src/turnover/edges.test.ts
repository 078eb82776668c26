import { execFileSync, spawnSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import {
  packStereo24,
  readEdl,
  FRAME_RATES,
  SAMPLE_RATE as RATE,
  SHIPPED_RECIPES,
  wavHeader,
  type KeptFile,
  type NewReel,
  type Recipe,
  type Shelf,
  type SoundPage,
} from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { testClip, testTrack } from '../../../../packages/core/src/test/records.js'
import { startTestServer, type TestServer } from '../test/testServer.js'

const ALL: Recipe = {
  ...(SHIPPED_RECIPES[0] as Recipe),
  lists: ['cuesPdf', 'cuesXlsx', 'cuesCsv', 'mixPdf', 'edl', 'otio', 'adl', 'clipsCsv'],
}
/** A name with everything in it that a file's name can't have, in three directions. */
const WILD = `«Tür/門\\שלום:*?"<>|» ${'langer Name '.repeat(20)}`.slice(0, 190)
/** A small disk of its own can be made by root only, and not in every container. */
const mayMount =
  spawnSync('sh', ['-c', 'd=$(mktemp -d) && mount -t tmpfs tmpfs "$d" && umount "$d" && rmdir "$d"'])
    .status === 0
let server: TestServer
let sound: string
const recording = (): string => path.join(server.root, 'bell.wav')

beforeAll(async () => {
  server = await startTestServer()
  const length = 4 * RATE
  const bell = Float32Array.from({ length }, (_, i) => 0.3 * Math.sin(i / 9) * Math.exp(-i / RATE))
  const head = wavHeader({ channels: 2, sampleRate: RATE, bits: 24, length })
  writeFileSync(recording(), Buffer.concat([head, packStereo24(bell, bell, length).bytes]))
  await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: server.root } })
  await server.settled((await server.app.inject('/api/shelves')).json<Shelf[]>()[0]!.jobId!)
  sound = (await server.app.inject('/api/sounds')).json<SoundPage>().sounds[0]!.id
})
afterAll(() => server.close())

/** Puts tracks with sounds one after the other into a new reel. */
async function reelOf(
  fields: Partial<NewReel>,
  tracks: number,
  each: number,
  name = 'Bell',
): Promise<string> {
  const id = await server.makeReel(fields)
  const added = Array.from({ length: tracks }, (_, t) => [
    testTrack(`t${t}`, { name: `${name} ${t}`, order: `a${String(t).padStart(3, '0')}` }),
    ...Array.from({ length: each }, (_, c) =>
      testClip(`t${t}c${c}`, `t${t}`, {
        soundId: sound,
        ...{ name: `${name} ${c}`, start: (c * 2 + t) * 4800, length: 9600, offset: 4800, sync: 4800 },
        ...{ recorded: 4 * RATE, fadeOut: 480 },
      }),
    ),
  ]).flat()
  if (added.length > 0) {
    const change = { label: 'Place', added, updated: [], removed: [] }
    const payload = { changeId: randomUUID(), base: 1, role: 'do', target: null, change }
    const answer = await server.app.inject({ method: 'POST', url: `/api/reels/${id}/changes`, payload })
    expect(answer.statusCode, answer.body).toBe(200)
  }
  return id
}

async function turnOver(reel: string, recipe: Recipe) {
  const url = `/api/reels/${reel}/turnovers`
  const { jobId } = (
    await server.app.inject({ method: 'POST', url, payload: { recipe, name: WILD.slice(0, 180) } })
  ).json<{
    jobId: string
  }>()
  const folder = path.join(server.dataDir, 'turnovers', jobId)
  const job = await server.settled(jobId)
  const answer = await server.app.inject(`/api/turnovers/${jobId}`)
  return { job, folder, files: answer.statusCode === 200 ? answer.json<{ files: KeptFile[] }>().files : [] }
}

const textOf = (file: string): string =>
  execFileSync('pdftotext', ['-layout', file, '-'], { maxBuffer: 1 << 26 }).toString()
const pages = (file: string): number =>
  Number(/Pages:\s+(\d+)/.exec(execFileSync('pdfinfo', [file]).toString())?.[1])

describe('a turnover', () => {
  it('of an empty reel without picture holds what there is, and paper that says so', async () => {
    const { job, folder, files } = await turnOver(await reelOf({}, 0, 0), { ...ALL, movie: 'mov' })
    expect(job).toMatchObject({ state: 'done', message: '' })
    const paper = files
      .filter(({ path: inside }) => inside.endsWith('.pdf'))
      .map(({ path: inside }) => textOf(path.join(folder, inside)))
    expect(paper.join(' ')).toMatch(/No sound is placed in this reel/)
    expect(paper.join(' ')).toMatch(/There is no movie: the reel has no picture/)
    // The mix is there, and silent.
    expect(files.filter(({ kind }) => kind === 'audio')).toHaveLength(1)
    expect(paper.join(' ')).toMatch(/Stereo mix.*silent/)
  })

  it('of a drop-frame reel over the minute, with names of any script and sign, is right on paper and in files', async () => {
    const reel = await reelOf(
      { showName: WILD, name: WILD, rate: '29.97d', firstTimecode: '02:00:59;20' },
      2,
      6,
      WILD.repeat(4),
    )
    const { job, folder, files } = await turnOver(reel, ALL)
    expect(job).toMatchObject({ state: 'done', message: '' })
    for (const { path: inside, size } of files) {
      expect(
        inside.split('/').every((part) => Buffer.byteLength(part) <= 255 && !/[\\:*?"<>|]/.test(part)),
      ).toBe(true)
      expect(existsSync(path.join(folder, inside))).toBe(true)
      const address = inside.split('/').map(encodeURIComponent).join('/')
      const fetched = await server.app.inject(`/api/turnovers/${path.basename(folder)}/files/${address}`)
      expect([fetched.statusCode, fetched.rawPayload.length]).toEqual([200, size])
    }
    const of = (ending: RegExp): string =>
      path.join(folder, files.find(({ path: inside }) => ending.test(inside))!.path)
    expect(textOf(of(/mix-cue-sheet\.pdf$/))).toMatch(/02:00:59;20 to 02:01:0/)
    expect(textOf(of(/mix-cue-sheet\.pdf$/))).toMatch(/門/)
    // 4,800 samples are 3 frames: the fourth sound of the first track begins 18 frames in, past the numbers that are dropped.
    const edl = readFileSync(of(/all-tracks\.edl$/), 'utf8')
    expect(edl).toMatch(/FCM: DROP FRAME/)
    expect(edl).toContain('02:01:00;10')
    expect(readEdl(edl, FRAME_RATES['29.97d']).problems).toEqual([])
  })

  it('of sixty tracks and five thousand sounds is made, each list whole', async () => {
    const reel = await reelOf({ lengthSeconds: 120 }, 60, 84)
    const small: Recipe = { ...ALL, mix: false, stems: false, tracks: false, sounds: 'none' }
    const { job, folder, files } = await turnOver(reel, small)
    expect(job).toMatchObject({ state: 'done', message: '' })
    const of = (ending: RegExp): string =>
      path.join(folder, files.find(({ path: inside }) => ending.test(inside))!.path)
    expect(
      readFileSync(of(/clips\.csv$/), 'utf8')
        .trim()
        .split('\r\n'),
    ).toHaveLength(60 * 84 + 1)
    // One of all, of each of six categories, and of each track.
    expect(files.filter(({ path: inside }) => inside.endsWith('.edl'))).toHaveLength(1 + 6 + 60)
    expect(textOf(of(/report\.pdf$/))).toMatch(/more than 999 events/)
    expect(pages(of(/mix-cue-sheet\.pdf$/))).toBeGreaterThan(10)
  }, 120_000)
})

describe('what goes wrong meanwhile', () => {
  const left = (): string[] =>
    existsSync(path.join(server.dataDir, 'turnovers'))
      ? readdirSync(path.join(server.dataDir, 'turnovers'))
      : []

  it('a recording that is gone is named, and nothing stays', async () => {
    const reel = await reelOf({ lengthSeconds: 5 }, 1, 2)
    const before = left()
    renameSync(recording(), `${recording()}.away`)
    try {
      const { job, files } = await turnOver(reel, {
        ...ALL,
        mix: false,
        stems: false,
        tracks: false,
        sounds: 'whole',
      })
      expect(job).toMatchObject({ state: 'failed', message: expect.stringMatching(/bell\.wav/) as string })
      expect([files, left()]).toEqual([[], before])
    } finally {
      renameSync(`${recording()}.away`, recording())
    }
  })

  it.runIf(mayMount)(
    'a disk that fills up in the middle is said, nothing stays, and it can be made afterwards',
    async () => {
      const reel = await reelOf({ lengthSeconds: 30 }, 1, 100)
      const place = path.join(server.dataDir, 'turnovers')
      mkdirSync(place, { recursive: true })
      for (const recipe of [
        ALL,
        { ...ALL, mix: false, stems: false, tracks: false, lists: [], sounds: 'whole' } as Recipe,
      ]) {
        execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=600k', 'tmpfs', place])
        try {
          const { job } = await turnOver(reel, recipe)
          expect(job).toMatchObject({
            state: 'failed',
            message: expect.stringMatching(/^The disk is full, so/) as string,
          })
          expect(readdirSync(place)).toEqual([])
        } finally {
          execFileSync('umount', [place])
        }
      }
      expect((await turnOver(reel, { ...ALL, lists: [], sounds: 'none' })).job).toMatchObject({
        state: 'done',
      })
    },
  )
})
