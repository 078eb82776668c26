import { EMPTY_PLAN, planOfVoices, PRESETS, type Insert, type PlanVoice, type RenderPlan } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { Feeder } from './Feeder.js'
import type { FeedMessage, FromFeeder } from './messages.js'
import { chunksWithin } from './pcm.js'
import { planNews } from './planNews.js'

const CHUNK = 65_536
const voice = (
  mediaId: string,
  start: number,
  length: number,
  fields: Partial<PlanVoice> = {},
): PlanVoice => ({
  ...{ mediaId, start, end: start + length, offset: 0, gain: 1, fadeIn: 0, fadeOut: 0 },
  ...{ fadeInShape: 'linear', fadeOutShape: 'linear' },
  ...fields,
})

let now: number
let feeder: Feeder
/** What the audio thread was given, what the page was told, and requests that wait for their answer. */
let fed: FeedMessage[]
let told: FromFeeder[]
let requests: { key: string; answer: (error?: Error) => void }[]
let plan: RenderPlan

beforeEach(() => {
  now = 0
  fed = []
  told = []
  requests = []
  plan = EMPTY_PLAN
  feeder = new Feeder({
    fetchChunk: (mediaId, index) =>
      new Promise((resolve, reject) => {
        const answer = (error?: Error): void => (error ? reject(error) : resolve([new Float32Array(4)]))
        requests.push({ key: `${mediaId}#${index}`, answer })
      }),
    toWorklet: (message) => void fed.push(message),
    toPage: (message) => void told.push(message),
    now: () => now,
  })
})
const hear = (next: RenderPlan): void => {
  feeder.take({ type: 'plan', news: planNews(plan, next) })
  plan = next
}
const start = (from: number, token = 1, loop: { from: number; to: number } | null = null): void =>
  feeder.take({ type: 'start', token, from, speed: 1, loop })
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve))
/** Answers all that is asked for, and what is asked for after that, until nothing more is. */
async function answerAll(): Promise<string[]> {
  const keys: string[] = []
  for (let some = requests.splice(0); some.length > 0; some = requests.splice(0)) {
    for (const { key, answer } of some) {
      keys.push(key)
      answer()
    }
    await settle()
    feeder.fill()
  }
  return keys
}
const kinds = (): string[] => fed.map(({ type }) => type)

describe('feeding the audio thread', () => {
  it('begins when the audio thread is there, with what sounds first', async () => {
    hear(planOfVoices([voice('a', 0, 48_000), voice('b', 96_000, 48_000), voice('far', 9_000_000, 48_000)]))
    expect(requests).toEqual([])
    feeder.connect()
    expect(await answerAll()).toEqual(['a#0', 'b#0'])
    expect(fed).toMatchObject([
      { type: 'chunk', mediaId: 'a', index: 0 },
      { type: 'chunk', mediaId: 'b', index: 0 },
    ])
  })

  it('lets playing start once the first second is there, and not before', async () => {
    feeder.connect()
    hear(planOfVoices([voice('a', 0, 480_000)]))
    start(0, 7)
    await settle()
    expect(kinds()).not.toContain('go')
    await answerAll()
    expect(fed).toContainEqual({ type: 'go', token: 7 })
  })

  it('does not start what was stopped, or started anew, meanwhile', async () => {
    feeder.connect()
    hear(planOfVoices([voice('a', 0, 480_000)]))
    start(0, 1)
    start(96_000, 2)
    await answerAll()
    expect(fed.filter(({ type }) => type === 'go')).toEqual([{ type: 'go', token: 2 }])
    fed.length = 0
    start(0, 3)
    feeder.take({ type: 'stop' })
    await answerAll()
    expect(kinds()).not.toContain('go')
  })

  it('fetches six at once at most, each once', async () => {
    feeder.connect()
    hear(planOfVoices(Array.from({ length: 20 }, (_, index) => voice(`s${index}`, index * 1000, 48_000))))
    feeder.fill()
    feeder.fill()
    expect(requests).toHaveLength(6)
    const keys = await answerAll()
    expect(new Set(keys).size).toBe(20)
  })

  it('goes along with the gate: six seconds ahead, two behind are kept, the rest let go', async () => {
    feeder.connect()
    const pieces = Array.from({ length: 10 }, (_, index) => voice(`s${index}`, index * 480_000, 48_000))
    hear(planOfVoices(pieces))
    expect(await answerAll()).toEqual(['s0#0'])
    feeder.take({ type: 'at', sample: 480_000 - 6 * 48_000 + 10 })
    feeder.fill()
    expect(await answerAll()).toEqual(['s1#0'])
    expect(fed).toContainEqual({ type: 'forget', mediaId: 's0', index: 0 })
    feeder.take({ type: 'at', sample: 480_000 + 48_000 + 48_000 })
    feeder.fill()
    expect(fed.filter(({ type }) => type === 'forget')).toHaveLength(1)
  })

  it('has the beginning of a loop ready while its end sounds', async () => {
    feeder.connect()
    hear(planOfVoices([voice('head', 0, 48_000), voice('tail', 960_000, 48_000)]))
    start(960_000, 1, { from: 0, to: 1_008_000 })
    expect((await answerAll()).toSorted()).toEqual(['head#0', 'tail#0'])
    feeder.take({ type: 'loop', loop: null })
    expect(fed).toContainEqual({ type: 'forget', mediaId: 'head', index: 0 })
  })

  it('keeps the last four sounds ready that may be tried next', async () => {
    feeder.connect()
    for (let index = 0; index < 5; index++) {
      feeder.take({ type: 'prepare', mediaId: `c${index}`, from: 0, to: CHUNK + 1 })
    }
    const keys = await answerAll()
    expect(keys).toContain('c4#1')
    expect(fed).toContainEqual({ type: 'forget', mediaId: 'c0', index: 0 })
  })

  it('says what can’t be had, and asks for it again only after a while', async () => {
    feeder.connect()
    hear(planOfVoices([voice('gone', 0, 48_000)]))
    requests.pop()?.answer(new Error('Gone is on no shelf any more.'))
    await settle()
    expect(told).toEqual([{ type: 'trouble', mediaId: 'gone', message: 'Gone is on no shelf any more.' }])
    feeder.fill()
    expect(requests).toEqual([])
    now = 3001
    feeder.fill()
    requests.pop()?.answer(new TypeError('fetch failed'))
    await settle()
    expect(told.at(-1)).toMatchObject({
      message: expect.stringContaining('The server does not answer') as string,
    })
  })

  it('starts all the same where a sound can’t be had', async () => {
    feeder.connect()
    hear(planOfVoices([voice('gone', 0, 48_000)]))
    start(0, 1)
    requests.pop()?.answer(new Error('Gone.'))
    await settle()
    expect(fed).toContainEqual({ type: 'go', token: 1 })
  })

  it('makes each room once, also one that was wanted before the audio thread was there', () => {
    const reverb = {
      kind: 'insert',
      id: 'i',
      on: 'whole',
      order: 'a0',
      bypass: false,
      effect: 'reverb',
      ...PRESETS.reverb[0]?.settings,
    } as Insert
    hear({ ...planOfVoices([]), whole: [reverb] })
    expect(fed).toEqual([])
    feeder.connect()
    hear({ ...planOfVoices([]), whole: [reverb, { ...reverb, id: 'j' }] })
    expect(kinds()).toEqual(['room'])
  })
})

describe('the pieces that a stretch needs', () => {
  const needed = (voices: PlanVoice[], from: number, to: number): string[] =>
    chunksWithin(planOfVoices(voices), from, to).map(({ mediaId, index }) => `${mediaId}#${index}`)

  it('are those that are heard in it, the soonest first', () => {
    const long = voice('long', 0, 4 * CHUNK)
    expect(needed([long], 0, 10)).toEqual(['long#0'])
    expect(needed([long], CHUNK, 2 * CHUNK)).toEqual(['long#1'])
    expect(needed([long], CHUNK - 1, 2 * CHUNK + 1)).toEqual(['long#0', 'long#1', 'long#2'])
    expect(
      needed(
        [voice('late', 50_000, 100), voice('soon', 10, 100)].toSorted((a, b) => a.start - b.start),
        0,
        60_000,
      ),
    ).toEqual(['soon#0', 'late#0'])
    expect(needed([long], 4 * CHUNK, 5 * CHUNK)).toEqual([])
  })

  it('lie further on where the recording is cut into', () => {
    expect(needed([voice('cut', 0, 1000, { offset: 2 * CHUNK })], 0, 1000)).toEqual(['cut#2'])
  })

  it('run from the end where it plays backwards', () => {
    const recorded = 3 * CHUNK
    const played = { speed: 1, reverse: true, sides: 'kept', recorded } as const
    const order = needed([voice('back', 0, recorded, { played })], 0, recorded)
    expect(order[0]).toBe('back#2')
    expect(order.at(-1)).toBe('back#0')
  })
})
