import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync, readdirSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { secondsOf, type ScratchLine, type Shelf, type Sound, type SoundPage, type Voices } from '@yodel/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startTestServer, type TestServer } from '../test/testServer.js'
import { ownEngines } from './ownEngines.js'
import { VoiceBox } from './VoiceBox.js'

let server: TestServer
let reel: string
beforeAll(async () => {
  server = await startTestServer()
  reel = await server.makeReel()
})
afterAll(() => server.close())

const SENTENCE = 'I told you twice that the night train never stops here.'
const line = (fields: Partial<ScratchLine> = {}): ScratchLine => ({
  ...{ text: SENTENCE, voice: 'espeak-ng en-gb', pace: 170, pitch: 0 },
  ...fields,
})
const hear = (fields: Partial<ScratchLine> = {}, seconds: number | null = null) =>
  server.app.inject({
    ...{ method: 'POST', url: '/api/voices/hear' },
    payload: { line: line(fields), seconds },
  })
/** What another program measures of a WAV file that was heard. */
function measured(wav: Buffer): { seconds: number; silences: number[] } {
  const file = path.join(server.root, 'heard.wav')
  writeFileSync(file, wav)
  const seconds = Number(execFileSync('soxi', ['-D', file]).toString())
  const args = ['-hide_banner', '-i', file, '-af', 'silencedetect=n=-50dB:d=0.15', '-f', 'null', '-']
  const log = spawnSync('ffmpeg', args, { encoding: 'utf8' }).stderr
  return {
    seconds,
    silences: [...log.matchAll(/silence_duration: ([\d.]+)/g)].map(([, long]) => Number(long)),
  }
}
const lengthOf = async (fields: Partial<ScratchLine>, seconds: number | null = null): Promise<number> => {
  const answer = await hear(fields, seconds)
  expect(answer.statusCode, answer.body.slice(0, 300)).toBe(200)
  return measured(answer.rawPayload).seconds
}

describe('voices', () => {
  it('are listed by language, from both of Debian’s engines', async () => {
    const { voices, missing } = (await server.app.inject('/api/voices')).json<Voices>()
    expect(missing).toEqual([])
    expect(voices.length).toBeGreaterThan(150)
    expect(new Set(voices.map(({ name }) => name)).size).toBe(voices.length)
    expect(voices).toEqual(
      expect.arrayContaining([
        { name: 'espeak-ng de', called: 'German, man', language: 'de', sex: 'man', engine: 'espeak-ng' },
        {
          ...{ name: 'flite slt', called: 'American English, woman', language: 'en-US', sex: 'woman' },
          engine: 'flite',
        },
      ]),
    )
    // Those that need recordings which are not there are left out: every one that is offered speaks.
    expect(voices.some(({ name }) => name.includes('mb'))).toBe(false)
  })
  it.each(['espeak-ng en-gb', 'espeak-ng de+f3', 'flite slt', 'flite kal16'])(
    '%s is as long as the cue within 2 %',
    async (voice) => {
      for (const seconds of [2, 3.3, 5])
        expect(Math.abs((await lengthOf({ voice, pace: 'cue' }, seconds)) / seconds - 1)).toBeLessThan(0.02)
    },
  )
  it('say where a cue is too short or too long for a line, and say it all the same', async () => {
    const short = await hear({ pace: 'cue' }, 0.4)
    expect(short.headers['x-fits']).toBe('0')
    expect(measured(short.rawPayload).seconds).toBeGreaterThan(0.8)
    const long = await hear({ pace: 'cue', text: 'No.' }, 30)
    expect(long.headers['x-fits']).toBe('0')
    expect((await hear({ pace: 'cue' }, 3)).headers['x-fits']).toBe('1')
  })
  it('keep pauses to the hundredth, and speak faster and higher where that is asked for', async () => {
    const { silences } = measured((await hear({ text: 'Hold it (1.5) there.\n\nNow.' })).rawPayload)
    expect(silences.map((long) => Math.round(long * 10) / 10)).toEqual([1.5, 0.7])
    const [slow, usual, fast] = await Promise.all([100, 170, 300].map((pace) => lengthOf({ pace })))
    expect([slow! / usual!, usual! / fast!].map((ratio) => Math.abs(ratio / 1.7 - 1) < 0.15)).toEqual([
      true,
      true,
    ])
  })
})

describe('a line', () => {
  const keep = async (fields: Partial<ScratchLine> = {}, cue = 'DX 004') => {
    const payload = { line: line(fields), seconds: null, cue, timeReference: 172_800_000 }
    return server.app.inject({ method: 'POST', url: `/api/reels/${reel}/lines`, payload })
  }
  it('is kept on the show’s shelf with its words, its cue and how it was made; the same is the same', async () => {
    const answer = await keep({ text: 'Who goes there? (0.5) Ünder the bridge?' })
    expect(answer.statusCode, answer.body).toBe(200)
    const { sound, seconds } = answer.json<{ sound: Sound; seconds: number }>()
    expect(sound).toMatchObject({
      ...{ name: 'Scratch DX 004 Who goes there? Ünder the bridge?', shelf: 'Made here: Show', channels: 1 },
      ...{
        path: expect.stringMatching(/^Scratch voices\//) as string,
        measured: true,
        sync: expect.any(Number) as number,
      },
    })
    expect(secondsOf(sound.length)).toBeCloseTo(seconds, 2)
    const found = (await server.app.inject('/api/sounds?q=bridge')).json<SoundPage>()
    expect(found.sounds.map(({ id }) => id)).toEqual([sound.id])
    const [shelf] = (await server.app.inject('/api/shelves')).json<Shelf[]>()
    const tags = JSON.parse(
      execFileSync('ffprobe', [
        ...['-v', 'error', '-show_entries', 'format_tags', '-of', 'json'],
        path.join(shelf!.root, sound.path),
      ]).toString(),
    ) as { format: { tags: Record<string, string> } }
    expect(tags.format.tags).toMatchObject({
      ...{ originator_reference: 'DX 004', time_reference: '172800000' },
      coding_history: expect.stringContaining(
        'T=espeak-ng en-gb; 170 words a minute; asked for by Tester',
      ) as string,
    })
    const again = await keep({ text: 'Who goes there? (0.5) Ünder the bridge?' })
    expect(again.json<{ sound: Sound }>().sound.id).toBe(sound.id)
    const other = await keep({ text: 'Who goes there? (0.5) Ünder the bridge?', voice: 'flite slt' })
    expect(other.json<{ sound: Sound }>().sound.id).not.toBe(sound.id)
  })
  it('reaches neither a shell nor the markup of an engine', async () => {
    const trap = path.join(tmpdir(), `yodel-trap-${process.pid}`)
    const plain = await lengthOf({ text: 'Now then' })
    for (const voice of ['espeak-ng en-gb', 'flite slt']) {
      const heard = await hear({
        voice,
        text: `Now $(touch ${trap}) \`touch ${trap}\`; touch ${trap} | -w /tmp/x`,
      })
      expect(heard.statusCode).toBe(200)
    }
    expect(existsSync(trap)).toBe(false)
    // As phonemes or as a break of ten seconds they would be short, or long.
    expect(await lengthOf({ text: 'Now <break time="10s"/> then' })).toBeLessThan(plain + 4)
    expect(await lengthOf({ text: '-f /etc/passwd' })).toBeLessThan(4)
  })
  it.each<[string, Partial<ScratchLine>, number | null, number, string]>([
    ['fifty thousand letters', { text: 'word '.repeat(10_000) }, null, 400, '2000'],
    ['control characters', { text: 'Stop\u0007 it' }, null, 400, 'control characters'],
    ['no words', { text: '… — (2)' }, null, 400, 'no words in this line'],
    ['a voice that is not there', { voice: 'espeak-ng tlh' }, null, 422, 'There is no voice “espeak-ng tlh”'],
    ['an option for a voice', { voice: '--version' }, null, 422, 'There is no voice'],
    ['a cue of one frame', { pace: 'cue' }, 1 / 24, 400, 'This cue has no length'],
  ])('%s: refused in words', async (_, fields, seconds, status, words) => {
    const answer = await hear(fields, seconds)
    expect([answer.statusCode, answer.body]).toEqual([status, expect.stringContaining(words)])
  })
})

describe('engines of one’s own', () => {
  const config = (engines: unknown): string => {
    const file = path.join(server.root, 'voices.json')
    writeFileSync(file, typeof engines === 'string' ? engines : JSON.stringify(engines))
    return file
  }
  const engine = (command: string, args: string[]) => ({
    ...{ name: 'own', command, args: [...args, '{text}', '{out}'] },
    voices: [{ id: 'anna', called: 'Anna', language: 'de-DE', sex: 'woman' }],
  })
  const boxOf = (...engines: unknown[]): VoiceBox =>
    new VoiceBox(ownEngines(config(engines)), () => server.services.media.folder('incoming'), 700)
  const say = (box: VoiceBox) =>
    box.say({ line: line({ voice: 'own anna' }), seconds: null }, new AbortController().signal)

  it('speak when the file says how they are run', async () => {
    const box = boxOf({
      ...engine('sh', []),
      args: ['-c', 'espeak-ng -v {voice} -f "$1" -w "$2"', 'own', '{text}', '{out}'],
      voices: [{ id: 'de', called: 'Anna', language: 'de-DE' }],
    })
    expect((await box.voices()).voices).toEqual([
      { name: 'own de', called: 'Anna', language: 'de-DE', sex: 'unsaid', engine: 'own' },
    ])
    const said = await box.say(
      { line: line({ voice: 'own de' }), seconds: null },
      new AbortController().signal,
    )
    expect(said.samples.length / said.rate).toBeGreaterThan(2)
  })
  it.each([
    ['hangs', 'sh', ['-c', 'sleep 30'], 'took longer than 1 s'],
    ['dies', 'sh', ['-c', 'echo out of breath >&2; exit 3'], 'out of breath'],
    ['writes nothing', 'true', [], 'it has written no sound'],
    ['writes something else', 'sh', ['-c', 'echo hello > "$1"'], 'no WAV file'],
    ['is not installed', '/nowhere/speak', [], 'is not installed'],
  ])('one that %s is said to, and leaves nothing', async (_, command, args, words) => {
    await expect(say(boxOf(engine(command, args)))).rejects.toMatchObject({
      code: 'VOICE_FAILED',
      message: expect.stringContaining(words) as string,
    })
    expect(readdirSync(path.join(server.dataDir, 'incoming'))).toEqual([])
  })
  it('stop Yodel in words when their file is wrong', () => {
    expect(() => ownEngines('/nowhere.json')).toThrow("/nowhere.json can't be read as JSON")
    expect(() => ownEngines(config('{'))).toThrow("voices.json can't be read as JSON")
    expect(() => ownEngines(config([{ ...engine('x', []), args: ['{text}'] }]))).toThrow('{out}')
  })
})
