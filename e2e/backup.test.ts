import { execFileSync, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import {
  documentOf,
  expectOk,
  placeSound,
  SHIPPED_RECIPES,
  spotCue,
  wavLayout,
  type Job,
  type Picture,
  type ReelDocument,
  type ReelState,
  type Sound,
} from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { npmStart, type Started } from './support/npmStart.js'

const TOOLS = fileURLToPath(new URL('../tools', import.meta.url))
const base = mkdtempSync(path.join(tmpdir(), 'yodel-backup-'))
const [here, there, shelf] = ['here', 'there', 'shelf'].map((name) => path.join(base, name)) as [
  string,
  string,
  string,
]
const file = path.join(base, 'yodel.tar')
const roots = { YODEL_SOUND_ROOTS: shelf, YODEL_USER: 'Tester' }
let yodel: Started

beforeAll(() => {
  chmodSync(base, 0o755)
  mkdirSync(shelf)
})
afterAll(async () => {
  await yodel?.stop()
  rmSync(base, { recursive: true, force: true })
})

/** Runs one of the commands on a data folder. @returns its exit code, and what it said */
async function command(
  name: string,
  dataDir: string,
  ...args: string[]
): Promise<{ code: number; said: string }> {
  const env = { ...process.env, YODEL_DATA_DIR: dataDir, YODEL_DATABASE_URL: '' }
  const child = spawn(process.execPath, [path.join(TOOLS, `${name}.mjs`), ...args], { env })
  let said = ''
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (piece: Buffer) => (said += piece.toString()))
  const [code] = (await once(child, 'close')) as [number]
  return { code, said }
}

/** Somebody who asks one server. */
function asking(url: string) {
  const ask = async <T>(method: string, at: string, body?: unknown): Promise<T> => {
    const headers = { 'content-type': 'application/json' }
    const answer = await fetch(
      `${url}/api${at}`,
      body ? { method, headers, body: JSON.stringify(body) } : { method },
    )
    if (!answer.ok) throw new Error(`${method} ${at}: ${answer.status} ${await answer.text()}`)
    return (answer.status === 204 ? null : await answer.json()) as T
  }
  const document = async (reel: string): Promise<[ReelDocument, number]> => {
    const state = await ask<ReelState>('GET', `/reels/${reel}`)
    return [documentOf(state.records), state.seq]
  }
  const settled = async (jobId: string): Promise<void> => {
    for (let state = ''; state !== 'done'; await new Promise((resolve) => setTimeout(resolve, 100))) {
      state = (await ask<Job>('GET', `/jobs/${jobId}`)).state
      if (state === 'failed') throw new Error(`${jobId} failed`)
    }
  }
  return {
    ask,
    document,
    settled,
    makeReel: (name: string) =>
      ask<{ id: string }>('POST', '/reels', {
        ...{ showId: null, showName: 'Kept', name, rate: '24' },
        ...{ firstTimecode: '01:00:00:00', lengthSeconds: 20 },
      }),
    async edit(reel: string, compute: (doc: ReelDocument) => ReturnType<typeof spotCue>): Promise<void> {
      const [doc, base] = await document(reel)
      const change = expectOk(compute(doc))
      await ask('POST', `/reels/${reel}/changes`, {
        changeId: randomUUID(),
        base,
        role: 'do',
        target: null,
        change,
      })
    },
    /** A turnover as it is fetched. */
    zip: async (id: string) =>
      Buffer.from(await (await fetch(`${url}/api/turnovers/${id}/package.zip`)).arrayBuffer()),
    /** The samples of a reel's mix. */
    async mix(reel: string): Promise<Buffer> {
      const { jobId } = await ask<{ jobId: string }>('POST', `/reels/${reel}/bounce`)
      await settled(jobId)
      const wav = Buffer.from(await (await fetch(`${url}/api/bounces/${jobId}`)).arrayBuffer())
      const { at, size } = expectOk(wavLayout(wav.subarray(0, 65_536)))
      return wav.subarray(at, at + size)
    },
  }
}

describe('a backup', () => {
  let kept: {
    zip: Buffer
    turnover: string
    quiet: string
    busy: string
    picture: string
    mix: Buffer
    doc: ReelDocument
  }

  it('is made while people work, and says what is in it', async () => {
    const tone = [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'anoisesrc=duration=1:seed=7',
      path.join(shelf, 'gravel.wav'),
    ]
    execFileSync('ffmpeg', tone)
    yodel = npmStart(here, roots)
    const url = await yodel.url()
    const me = asking(url)
    await me.ask('POST', '/shelves', { path: shelf })
    const [{ jobId = '' } = {}] = await me.ask<{ jobId: string }[]>('GET', '/shelves')
    await me.settled(jobId)
    const { sounds } = await me.ask<{ sounds: Sound[] }>('GET', '/sounds?q=gravel')
    const sound = sounds[0] as Sound
    const film = path.join(base, 'film.mp4')
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc=duration=1:rate=24', film])
    const form = new FormData()
    form.append('movie', new Blob([readFileSync(film)]), 'film.mp4')
    const uploaded = (await (
      await fetch(`${url}/api/pictures`, { method: 'POST', body: form })
    ).json()) as Picture
    await me.settled(uploaded.jobId ?? '')
    const [quiet, busy] = [(await me.makeReel('Quiet')).id, (await me.makeReel('Busy')).id]
    const where = { id: 'clip', newTrackId: 'track', category: 'FX', cueId: null, frame: 60 } as const
    await me.edit(quiet, (doc) =>
      placeSound(doc, {
        ...where,
        sound: { id: sound.id, name: sound.name, recorded: sound.length, sync: sound.sync },
      }),
    )
    const recipe = { ...SHIPPED_RECIPES[2], mix: false, lists: ['cuesCsv'] }
    const turnover = await me.ask<{ jobId: string }>('POST', `/reels/${quiet}/turnovers`, {
      recipe,
      name: 'Kept',
    })
    await me.settled(turnover.jobId)
    const zip = await me.zip(turnover.jobId)
    kept = {
      ...{ zip, turnover: turnover.jobId },
      quiet,
      busy,
      picture: uploaded.id,
      mix: await me.mix(quiet),
      doc: (await me.document(quiet))[0],
    }

    let working = true
    const work = (async () => {
      for (let at = 0; working; at++)
        await me.edit(busy, (doc) => spotCue(doc, { id: `c${at}`, category: 'FX', in: at, out: at + 1 }))
    })()
    await expect.poll(async () => (await me.document(busy))[1]).toBeGreaterThan(5)
    const before = (await me.document(busy))[1]
    const made = await command('backup', here, file)
    expect((await me.document(busy))[1]).toBeGreaterThan(before + 5)
    working = false
    await work
    expect(made).toMatchObject({
      code: 0,
      said: expect.stringMatching(/holds 2 reels and 7 files of media/) as string,
    })
    expect(await command('backup', here, file)).toMatchObject({
      code: 1,
      said: expect.stringContaining('is there already') as string,
    })
    expect(readdirSync(base).filter((name) => name.startsWith('.yodel'))).toEqual([])
  }, 120_000)

  it('is refused where it would overwrite, and where it is damaged; both leave everything as it was', async () => {
    expect((await command('restore', here, file)).said).toContain('is not empty')
    const damaged = path.join(base, 'damaged.tar')
    const bytes = readFileSync(file)
    const at = bytes.indexOf('ftyp')
    bytes.writeUInt8((bytes[at + 20] ?? 0) ^ 0xff, at + 20)
    writeFileSync(damaged, bytes)
    expect(await command('restore', there, damaged)).toMatchObject({
      code: 1,
      said: expect.stringMatching(/pictures\/.*movie is not what was backed up/) as string,
    })
    expect(readdirSync(there)).toEqual([])
    writeFileSync(damaged, 'no archive')
    expect((await command('restore', there, damaged)).said).toContain('is not a backup of Yodel')
  })

  it('makes everything anew in an empty folder: reels, pictures, and a mix equal to the bit', async () => {
    await yodel.stop()
    const restored = await command('restore', there, file)
    expect(restored).toMatchObject({ code: 0, said: expect.stringContaining('Restored 2 reels') as string })
    expect((await command('verify', there)).said).toContain('The rows of 2 reels are what their logs say.')
    // Nothing of the old folder may be needed.
    rmSync(here, { recursive: true, force: true })
    yodel = npmStart(there, roots)
    const me = asking(await yodel.url())
    expect((await me.document(kept.quiet))[0]).toEqual(kept.doc)
    expect((await me.document(kept.busy))[1]).toBeGreaterThan(5)
    expect(kept.mix.some((byte) => byte !== 0)).toBe(true)
    expect(kept.zip.length).toBeGreaterThan(10_000)
    expect((await me.zip(kept.turnover)).equals(kept.zip)).toBe(true)
    expect((await me.mix(kept.quiet)).equals(kept.mix)).toBe(true)
    await expect
      .poll(async () => (await me.ask<Picture>('GET', `/pictures/${kept.picture}`)).state, {
        timeout: 30_000,
      })
      .toBe('ready')
  }, 120_000)
})
