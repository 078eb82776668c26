import { mkdirSync, readFileSync, symlinkSync, truncateSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { wavHeader, type Shelf, type SoundPage } from '@yodel/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { ffmpeg, startTestServer, type TestServer } from '../test/testServer.js'

// A disk as it comes: what is broken is listed with its reason, everything else is found.
let server: TestServer
let shelf: Shelf
let found: SoundPage['sounds']
beforeAll(async () => {
  server = await startTestServer()
  const root = path.join(server.root, 'Disk')
  mkdirSync(path.join(root, 'in'), { recursive: true })
  const at = (name: string): string => path.join(root, name)
  const sine = (rate: number, time = 1): string[] => ['-f', 'lavfi', '-i', `sine=frequency=440:sample_rate=${rate}:duration=${time}`]
  ffmpeg(at('eight bit.wav'), ...sine(48_000), '-c:a', 'pcm_u8')
  ffmpeg(at('high rate.wav'), ...sine(192_000), '-c:a', 'pcm_f32le')
  ffmpeg(at('six.wav'), ...sine(48_000), '-af', 'pan=5.1|c0=c0|c1=c0|c2=c0|c3=c0|c4=c0|c5=c0')
  ffmpeg(at('two.aiff'), ...sine(44_100), '-ac', '2')
  ffmpeg(at('voice.opus'), ...sine(48_000))
  ffmpeg(at('aac.m4a'), ...sine(48_000))
  ffmpeg(at('whole.wav'), ...sine(48_000, 4))
  writeFileSync(at('cut short.wav'), readFileSync(at('whole.wav')).subarray(0, 96_044))
  // 32 channels in the plain notation that says nothing of loudspeakers.
  const head = wavHeader({ channels: 32, sampleRate: 48_000, bits: 16, length: 4800 })
  writeFileSync(at('many.wav'), Buffer.concat([head, Buffer.alloc(4800 * 32 * 2, 7)]))
  const lying = readFileSync(at('whole.wav'))
  lying.writeUInt32LE(0xfffffff0, lying.indexOf('data') + 4)
  writeFileSync(at('lying size.wav'), lying)
  ffmpeg(at('tail.flac'), ...sine(48_000, 3))
  truncateSync(at('tail.flac'), 20_000)
  ffmpeg(at('in/line\nbreak.wav'), ...sine(48_000))
  ffmpeg(at('in/-af volume=0 "quoted".wav'), ...sine(48_000))
  ffmpeg(at('in/雨の音.wav'), ...sine(48_000))
  writeFileSync(at('empty.wav'), '')
  writeFileSync(at('letter.mp3'), 'Dear Sir,')
  writeFileSync(at('picture.flac'), readFileSync('/proc/self/exe').subarray(0, 4096))
  mkdirSync(at('folder.wav'))
  symlinkSync('..', at('in/circle'))
  symlinkSync('/etc/passwd', at('in/secret.wav'))
  const { id } = (await server.app.inject({ method: 'POST', url: '/api/shelves', payload: { path: root } })).json<{ id: string }>()
  const list = async (): Promise<Shelf[]> => (await server.app.inject('/api/shelves')).json()
  expect(await server.settled((await list())[0]!.jobId!)).toMatchObject({ state: 'done' })
  shelf = (await list()).find((one) => one.id === id)!
  found = (await server.app.inject('/api/sounds')).json<SoundPage>().sounds
})
afterAll(() => server.close())

it('lists every broken file with its reason', () => {
  expect(shelf.problems.map(({ path: file }) => file)).toEqual(['cut short.wav', 'empty.wav', 'letter.mp3', 'picture.flac', 'tail.flac'])
  expect(shelf.problems[0]!.reason).toBe('The file is cut short: its header promises 4.0 s, it holds 1.0 s. What is there can be used.')
  for (const { reason } of shelf.problems) expect(reason).not.toContain(server.root)
})
it('finds everything else, whatever its kind, name or header', () => {
  const seconds = (name: string): number => (found.find((sound) => sound.path.endsWith(name))?.length ?? 0) / 48_000
  for (const name of ['eight bit.wav', 'high rate.wav', 'six.wav', 'two.aiff', 'voice.opus', 'aac.m4a', 'cut short.wav', 'line\nbreak.wav', '"quoted".wav', '雨の音.wav'])
    expect([name, seconds(name)]).toEqual([name, expect.closeTo(1, 0)])
  expect([seconds('many.wav'), seconds('lying size.wav')]).toEqual([0.1, 4])
  expect(found.find((sound) => sound.path === 'many.wav')?.channels).toBe(32)
  expect(found).toHaveLength(14)
  expect(found.every((sound) => sound.measured)).toBe(true)
})
it('measures the same loudness whatever the bits and the rate', () => {
  const loudness = (name: string): number => found.find((sound) => sound.path === name)!.loudness
  for (const name of ['high rate.wav', 'eight bit.wav']) expect(Math.abs(loudness(name) - loudness('whole.wav'))).toBeLessThan(0.3)
})
