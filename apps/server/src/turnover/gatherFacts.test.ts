import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { readFileSync, renameSync, utimesSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import {
  documentOf,
  expectOk,
  deleteRecords,
  findingsOf,
  ok,
  placeSound,
  shapeClips,
  trimClip,
  type Change,
  type ReelDocument,
  type ReelState,
  type Result,
  type Sound,
  type TurnoverFacts,
} from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'

let server: TestServer
let reel = ''
let file = ''
const get = async <T>(url: string): Promise<T> => (await server.app.inject(url)).json<T>()
const document = async (): Promise<ReelDocument> =>
  documentOf((await get<ReelState>(`/api/reels/${reel}`)).records)
const facts = () => get<TurnoverFacts>(`/api/reels/${reel}/facts`)
/** What the findings say of the reel as it stands, in their words. */
const found = async (check: string): Promise<string[]> =>
  findingsOf(await document(), await facts()).flatMap((finding) =>
    finding.check === check ? [finding.text] : [],
  )

async function edit(compute: (doc: ReelDocument) => Result<Change>): Promise<void> {
  const { seq, records } = await get<ReelState>(`/api/reels/${reel}`)
  const change = expectOk(compute(documentOf(records)))
  const payload = { changeId: randomUUID(), base: seq, role: 'do', target: null, change }
  expect(
    (await server.app.inject({ method: 'POST', url: `/api/reels/${reel}/changes`, payload })).statusCode,
  ).toBe(200)
}

beforeAll(async () => {
  server = await startTestServer()
  file = path.join(server.root, 'tone.wav')
  // A tone of known height (sox): a quarter of full scale is -12.04 dBFS; the sine stands at its top after a quarter of its period.
  execFileSync('sox', [
    '-D',
    '-n',
    '-r',
    '48000',
    '-b',
    '24',
    '-c',
    '1',
    file,
    'synth',
    '2',
    'sine',
    '100',
    'vol',
    '0.25',
  ])
  const post = async <T>(url: string, payload: object): Promise<T> =>
    (await server.app.inject({ method: 'POST', url, payload })).json<T>()
  await post('/api/shelves', { path: server.root })
  const [{ jobId = '' } = {}] = await get<{ jobId: string }[]>('/api/shelves')
  await server.settled(jobId)
  reel = await server.makeReel()
  const sound = (await get<{ sounds: Sound[] }>('/api/sounds')).sounds[0] as Sound
  const where = { id: 'a', newTrackId: 't', category: 'FX', cueId: null, frame: 240 } as const
  const recording = { id: sound.id, name: 'Tone', recorded: sound.length, sync: 0 }
  await edit((doc) => placeSound(doc, { ...where, sound: recording }))
  // Cut hard at the top of a wave: 120 samples are a quarter of a period of 100 Hz.
  await edit((doc) => trimClip(doc, { id: 'a', end: 'head', to: 240 * 2000 + 4800 + 120 }))
  await edit((doc) => shapeClips(doc, { ids: ['a'], fields: { fadeIn: 0, fadeOut: 0 } }))
}, 60_000)
afterAll(() => server.close())

describe('what findings need to know', () => {
  it('is what the index and the disk say of each recording in use', async () => {
    expect((await facts()).sounds).toEqual([
      expect.objectContaining({
        name: 'tone',
        state: 'here',
        sampleRate: 48_000,
        length: 96_000,
        licence: '',
      }),
    ])
    expect(await found('media')).toEqual([])
    renameSync(file, `${file}.away`)
    expect(await found('media')).toEqual(['Tone: its file is not there'])
    renameSync(`${file}.away`, file)
    expect(await found('media')).toEqual([])
    const later = new Date(Date.now() + 5000)
    utimesSync(file, later, later)
    expect(await found('media')).toEqual(['Tone: its file has changed since it was placed'])
  })

  it('is also what the index has found to be another sound since it was placed; placed anew, it is this one', async () => {
    const [{ id: shelf = '' } = {}] = await get<{ id: string }[]>('/api/shelves')
    const index = async (): Promise<void> => {
      const answer = await server.app.inject({ method: 'POST', url: `/api/shelves/${shelf}/index` })
      await server.settled(answer.json<{ jobId: string }>().jobId)
    }
    // Touched, it is the same.
    await index()
    expect(await found('media')).toEqual([])
    const bytes = readFileSync(file)
    bytes.writeInt16LE(-bytes.readInt16LE(1000), 1000)
    writeFileSync(file, bytes)
    const later = new Date(Date.now() + 9000)
    utimesSync(file, later, later)
    await index()
    expect(await found('media')).toEqual(['Tone: its file has changed since it was placed'])
    const clip = (await document()).clip.get('a')!
    await edit((doc) => deleteRecords(doc, { ids: ['a'] }))
    await edit(() => ok({ label: 'Again', added: [{ ...clip, id: 'again' }], updated: [], removed: [] }))
    expect(await found('media')).toEqual([])
    await edit(() => ok({ label: 'Back', added: [clip], updated: [], removed: [{ ...clip, id: 'again' }] }))
    bytes.writeInt16LE(-bytes.readInt16LE(1000), 1000)
    writeFileSync(file, bytes)
    await index()
  })

  it('is how loud a sound is where it is cut hard, once it has been decoded', async () => {
    expect((await facts()).edges).toEqual([])
    const { soundId } = (await document()).clip.get('a')!
    await server.app.inject(`/api/media/${soundId}/pcm/0`)
    const [edge] = (await facts()).edges
    expect(edge).toMatchObject({ clipId: 'a', first: expect.closeTo(20 * Math.log10(0.25), 1) as number })
    expect(await found('clicks')).toContain('Tone is cut hard inside something loud at its beginning')
    await edit((doc) => shapeClips(doc, { ids: ['a'], fields: { fadeIn: 480 } }))
    expect(await found('clicks')).not.toContain('Tone is cut hard inside something loud at its beginning')
  })
})
