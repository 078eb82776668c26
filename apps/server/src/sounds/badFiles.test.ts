import {
  appendFileSync,
  copyFileSync,
  mkdirSync,
  readFileSync,
  renameSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import path from 'node:path'
import { wavHeader, type Shelf, type Sound } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'

type Ended = Awaited<ReturnType<TestServer['settled']>>
let server: TestServer
beforeAll(async () => {
  server = await startTestServer()
})
afterAll(() => server.close())

const tone = (seconds: number, rate = 48_000): string[] => [
  '-f',
  'lavfi',
  '-i',
  `sine=frequency=440:sample_rate=${rate}:duration=${seconds}`,
]
async function shelfOf(
  name: string,
  fill: (folder: string) => void,
): Promise<{ folder: string; id: string }> {
  const folder = path.join(server.root, name)
  mkdirSync(folder)
  fill(folder)
  const made = await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: folder } })
  return { folder, id: made.json<{ id: string }>().id }
}
const shelf = async (id: string): Promise<Shelf> =>
  (await server.app.inject('/api/shelves')).json<Shelf[]>().find((one) => one.id === id)!
const settled = async (id: string): Promise<Ended> => server.settled((await shelf(id)).jobId!)
const again = async (id: string): Promise<Ended> => {
  await server.app.inject({ method: 'POST', url: `/api/shelves/${id}/index` })
  return settled(id)
}
const soundsOf = async (id: string): Promise<Sound[]> =>
  (
    await server.app.inject({ url: '/api/sounds', query: { q: '', shelves: id, sort: 'name', down: '0' } })
  ).json<{ sounds: Sound[] }>().sounds

describe('what people have on their disks', () => {
  it('is read whatever its form: 8 bits, 192 kHz, 32 channels, line breaks and any script in names', async () => {
    const { id } = await shelfOf('Odd', (folder) => {
      ffmpeg(path.join(folder, 'eight.wav'), ...tone(1, 11_025), '-c:a', 'pcm_u8')
      ffmpeg(path.join(folder, 'fast.wav'), ...tone(1, 192_000), '-c:a', 'pcm_s24le')
      const many = Buffer.from(
        Int16Array.from({ length: 48_000 * 32 }, (_, at) => 9000 * Math.sin((at >> 5) / 17)).buffer,
      )
      writeFileSync(
        path.join(folder, 'many.wav'),
        Buffer.concat([wavHeader({ channels: 32, sampleRate: 48_000, bits: 16, length: 48_000 }), many]),
      )
      ffmpeg(path.join(folder, 'two\nlines.wav'), ...tone(1))
      ffmpeg(path.join(folder, '扉の軋み ضربة дверь.wav'), ...tone(1))
    })
    await settled(id)
    expect((await shelf(id)).problems).toEqual([])
    const sounds = await soundsOf(id)
    expect(
      sounds.map(({ name, channels, sampleRate, length }) => [
        name.replace(/\s/g, ' '),
        channels,
        sampleRate,
        Math.round(length / 480),
      ]),
    ).toEqual(
      expect.arrayContaining([
        ['eight', 1, 11_025, 100],
        ['fast', 1, 192_000, 100],
        ['many', 32, 48_000, 100],
        ['two lines', 1, 48_000, 100],
        ['扉の軋み ضربة дверь', 1, 48_000, 100],
      ]),
    )
    expect(sounds.every((sound) => sound.measured)).toBe(true)
    const heard = await server.app.inject(
      `/api/media/${sounds.find((sound) => sound.name === 'many')!.id}/pcm/0`,
    )
    // Two sides are heard of however many channels.
    expect([heard.statusCode, heard.rawPayload.length]).toEqual([200, 48_000 * 2 * 4])
  }, 120_000)

  it('is a recording in whatever container ffmpeg reads as sound; what is none is counted by its kind', async () => {
    const forms = [
      ...['wv', 'caf', 'w64', 'au', 'aac', 'wma', 'mka', 'ac3', 'tta', 'aif', 'opus', 'mp2', 'eac3'],
    ]
    const { id } = await shelfOf('Containers', (folder) => {
      for (const form of forms)
        ffmpeg(path.join(folder, `tone.${form}`), ...tone(2, form === 'opus' ? 48_000 : 44_100))
      for (const other of ['readme.txt', 'Notes.TXT', 'session.xml', 'LICENSE'])
        writeFileSync(path.join(folder, other), 'words')
    })
    expect(await settled(id)).toMatchObject({ state: 'done' })
    const { problems, counts } = await shelf(id)
    expect(problems).toEqual([])
    expect(counts).toMatchObject({ 'fresh': forms.length, '.txt': 2, '.xml': 1, '.': 1 })
    const sounds = await soundsOf(id)
    expect(sounds.map((sound) => path.extname(sound.path).slice(1)).sort()).toEqual(forms.toSorted())
    // Codecs of packets end within a packet or two of what went in.
    for (const { path: file, channels, sampleRate, length, measured } of sounds) {
      expect([channels, sampleRate, measured], file).toEqual([
        1,
        file.endsWith('opus') ? 48_000 : 44_100,
        true,
      ])
      expect(Math.abs(length - 96_000), file).toBeLessThan(6000)
    }
  }, 120_000)

  it('is listed with its reason where it is broken, and the rest goes on', async () => {
    const { id } = await shelfOf('Broken', (folder) => {
      // Without tags of its own the samples' length stands at byte 40.
      ffmpeg(path.join(folder, 'good.wav'), ...tone(1), '-bitexact')
      ffmpeg(path.join(folder, 'good.flac'), ...tone(2))
      const [wav, flac] = [
        readFileSync(path.join(folder, 'good.wav')),
        readFileSync(path.join(folder, 'good.flac')),
      ]
      writeFileSync(path.join(folder, 'cut off.wav'), wav.subarray(0, 30_000))
      writeFileSync(path.join(folder, 'cut in the head.flac'), flac.subarray(0, 30))
      const lying = Buffer.from(wav)
      lying.writeUInt32LE(4_000_000_000, 40)
      writeFileSync(path.join(folder, 'lying.wav'), lying)
      const none = Buffer.from(wav)
      none.writeUInt16LE(0, 22)
      writeFileSync(path.join(folder, 'no channels.wav'), none)
      writeFileSync(path.join(folder, 'picture.mp3'), Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'))
      // Links in circles and out of the root are not followed.
      symlinkSync(folder, path.join(folder, 'round'))
      symlinkSync('/etc/passwd', path.join(folder, 'secret.wav'))
      mkdirSync(path.join(folder, 'deep'))
      symlinkSync('..', path.join(folder, 'deep/up'))
    })
    expect(await settled(id)).toMatchObject({ state: 'done' })
    const { problems } = await shelf(id)
    expect(problems.map((problem) => problem.path)).toEqual(
      expect.arrayContaining(['cut in the head.flac', 'no channels.wav', 'picture.mp3']),
    )
    expect(problems.every((problem) => problem.reason.length > 10)).toBe(true)
    const found = await soundsOf(id)
    const lengthOf = (name: string): number | undefined => found.find((sound) => sound.path === name)?.length
    // What is there of a file that is cut off, or that promises more than it holds, can be used.
    expect([lengthOf('good.wav'), lengthOf('good.flac'), lengthOf('lying.wav')]).toEqual([
      48_000, 96_000, 48_000,
    ])
    expect(lengthOf('cut off.wav')).toBeLessThan(15_000)
    expect(found.map((sound) => sound.path).filter((one) => /round|secret|deep/.test(one))).toEqual([])
  }, 120_000)

  it('may still be written while it is read, and is right after the next look', async () => {
    const samples = Buffer.alloc(96_000)
    const head = Buffer.from(wavHeader({ channels: 1, sampleRate: 48_000, bits: 16, length: 48_000 * 60 }))
    const { folder, id } = await shelfOf('Growing', (place) => {
      for (let copy = 0; copy < 12; copy++) ffmpeg(path.join(place, `still ${copy}.wav`), ...tone(1))
      writeFileSync(path.join(place, 'growing.wav'), Buffer.concat([head, samples]))
    })
    const writing = setInterval(() => appendFileSync(path.join(folder, 'growing.wav'), samples), 20)
    const first = await settled(id)
    clearInterval(writing)
    expect(first.state).toBe('done')
    const now = Math.floor((readFileSync(path.join(folder, 'growing.wav')).length - head.length) / 2)
    await again(id)
    const sounds = await soundsOf(id)
    expect(sounds).toHaveLength(13)
    expect(sounds.find((sound) => sound.path === 'growing.wav')!.length).toBe(Math.min(now, 48_000 * 60))
  }, 120_000)

  it('may go away with its disk in the middle: what was known stays, and the rest comes when it is back', async () => {
    const { folder, id } = await shelfOf('Sleepy', (place) => {
      ffmpeg(path.join(place, '0.wav'), ...tone(20))
      for (let copy = 1; copy < 20; copy++)
        copyFileSync(path.join(place, '0.wav'), path.join(place, `${copy}.wav`))
    })
    // As soon as it has begun to listen.
    for (let heard = 0; heard === 0; await new Promise((resolve) => setTimeout(resolve, 20)))
      heard = (await soundsOf(id)).filter((sound) => sound.measured).length
    renameSync(folder, `${folder} away`)
    const broken = await settled(id)
    expect(['done', 'failed']).toContain(broken.state)
    const kept = await soundsOf(id)
    expect(kept.length).toBeGreaterThan(0)
    renameSync(`${folder} away`, folder)
    await again(id)
    const sounds = await soundsOf(id)
    expect(sounds).toHaveLength(20)
    expect(sounds.every((sound) => sound.measured && !sound.missing)).toBe(true)
    expect((await shelf(id)).problems).toEqual([])
    expect(kept.every((sound) => sounds.some((other) => other.id === sound.id))).toBe(true)
  }, 180_000)
})
