import type { Sound } from '@yodel/core'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Capture } from '../../engine/input/Capture.js'
import { setStage, settle, type Stage } from '../../test/stage.js'
import type { Recorded, TakeOrder } from './Recorder.js'

/** An open input whose samples the test gives. */
class FakeCapture {
  onPart: Capture['onPart'] = null
  onLost: Capture['onLost'] = null
  readonly level = { peaks: [0.5], overs: 2 }
  closed = false
  record = vi.fn()
  stop = (): Promise<void> => Promise.resolve()
  close(): void {
    this.closed = true
  }
}

const S = 48_000
const ORDER: TakeOrder = {
  plan: { roll: 2 * S, in: 3 * S, out: 4 * S, end: 5 * S, beeps: [] },
  channel: 'left',
  about: {
    ...{ id: '00000000-0000-4000-8000-000000000000', reelId: 'r', cueId: null, name: 'Take', number: 1 },
    ...{ in: 3 * S, out: 4 * S, sync: 3 * S, reelAt: 0, device: '', roundTrip: 2400, measured: true },
  },
}

let stage: Stage
let capture: FakeCapture
let recorded: (Recorded | null)[]
let sent: { url: string; body: unknown }[]
beforeEach(() => {
  stage = setStage()
  recorded = []
  sent = []
  vi.stubGlobal('fetch', (url: string, { body }: RequestInit) => {
    sent.push({ url, body: typeof body === 'string' ? (JSON.parse(body) as unknown) : body })
    if (url === '/api/takes') return Promise.resolve(new Response(null, { status: 204 }))
    const from = Number(url.split('from=')[1])
    return Promise.resolve(
      Response.json(
        url.endsWith('/end') ? { id: 'sound' } : { length: from + (body as Float32Array).length },
      ),
    )
  })
  capture = new FakeCapture()
  const { recorder } = stage.session
  recorder.use(capture as unknown as Capture)
  recorder.onRecorded = (_order, take) => recorded.push(take)
  recorder.begin(ORDER)
})
afterEach(() => vi.unstubAllGlobals())

const come = (frame: number): void => capture.onPart?.({ frame, samples: new Float32Array(2400) })
const begun = (): unknown => sent.find(({ url }) => url === '/api/takes')?.body
const ended = (): unknown => sent.find(({ url }) => url.endsWith('/end'))?.body

describe('a take', () => {
  it('begins at its place once the reel rolls, less the round trip, with what came in before that', async () => {
    await settle()
    // The engine of the stage rolls from its first moment on: the reel's sample at frame 0 is where it was played from.
    expect(stage.engine.played.at(-1)).toMatchObject({ from: 2 * S, speed: 1, loop: null })
    come(960)
    come(960 + 2400)
    await settle()
    expect(begun()).toMatchObject({ start: 2 * S + 960 - 2400, channels: 1, name: 'Take' })
  })

  it('ends by itself after its handle, and is whole; stopped before, it is not', async () => {
    await settle()
    come(0)
    for (let second = 0; second < 4; second++) {
      stage.clock.pass(1000)
      come(2400 * (second + 1))
    }
    await settle()
    expect([recorded.length, recorded[0]?.whole]).toEqual([1, true])
    expect(await recorded[0]?.sound).toEqual({ id: 'sound' } as Sound)
    expect(ended()).toMatchObject({ note: '2 overs' })

    stage.session.recorder.begin(ORDER)
    await settle()
    come(0)
    stage.transport.stop()
    // What is told meanwhile does not end it twice.
    stage.transport.setLoop(null)
    await settle()
    expect([recorded.length, recorded[1]?.whole]).toEqual([2, false])
  })

  it('says how far it and the reel ran apart, where that is more than clocks differ', async () => {
    await settle()
    come(0)
    come(2400 + 480)
    stage.transport.stop()
    await settle()
    // Parts follow each other, so it lies where the middle of them says.
    expect([recorded.at(-1)?.slipped, ended()]).toMatchObject([0, { note: '2 overs', later: 480 }])
    expect(recorded.at(-1)?.about.start).toBe(2 * S - 2400 + 480)

    sent.length = 0
    stage.session.recorder.begin(ORDER)
    await settle()
    come(0)
    // The sound output stood still for a fifth of a second.
    come(2400 - 9600)
    come(4800 - 9600)
    stage.transport.stop()
    await settle()
    expect([recorded.at(-1)?.slipped, ended()]).toMatchObject([
      200,
      { note: '2 overs; Ran 200 ms apart from the reel', later: -9600 },
    ])
  })

  it('is nothing where nothing had come in, and ends where somebody goes elsewhere', async () => {
    stage.transport.stop()
    await settle()
    expect(recorded).toEqual([null])
    stage.session.recorder.begin(ORDER)
    await settle()
    come(0)
    stage.transport.goToSample(30 * S)
    await settle()
    come(2400)
    await settle()
    expect(stage.transport.rolling).toBe(false)
    expect(recorded).toHaveLength(2)
  })

  it('ends with its device: what came in until then is kept, and the input is closed', async () => {
    const lost = vi.fn()
    stage.session.recorder.onLost = lost
    await settle()
    come(0)
    capture.onLost?.()
    await settle()
    await recorded[0]?.sound
    expect(ended()).toMatchObject({ length: 2400, note: 'The device went away; 2 overs' })
    expect([lost.mock.calls.length, capture.closed, stage.session.recorder.capture]).toEqual([1, true, null])
  })

  it('ends when the reel is left, and goes to the server all the same', async () => {
    await settle()
    come(0)
    stage.session.recorder.dispose()
    await settle()
    await recorded[0]?.sound
    expect(ended()).toMatchObject({ length: 2400 })
    expect(capture.closed).toBe(true)
  })
})
