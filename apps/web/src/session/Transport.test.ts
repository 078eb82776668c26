import { beforeEach, describe, expect, it } from 'vitest'
import { setStage, settle, type Stage } from '../test/stage.js'

let stage: Stage
beforeEach(() => {
  stage = setStage()
})
/** A frame of 24 lasts 2,000 samples. */
const FRAME = 2000
const play = async (): Promise<void> => {
  stage.transport.play()
  await settle()
}

describe('the reel at the gate', () => {
  it('goes to frames and samples within the reel, and tells who listens', () => {
    const { transport } = stage
    const heard: number[] = []
    const end = transport.subscribe((sample) => heard.push(sample))
    transport.goToFrame(100)
    transport.goToSample(12_345.6)
    transport.goToFrame(-5)
    transport.goToFrame(99_999)
    expect(heard).toEqual([0, 100 * FRAME, 12_346, 0, 14_399 * FRAME])
    expect(transport.frame).toBe(14_399)
    end()
    transport.goToFrame(1)
    expect(heard).toHaveLength(5)
  })

  it('steps from the frame that it shows', () => {
    stage.transport.goToSample(100 * FRAME + 1999)
    stage.transport.step(1)
    expect(stage.transport.sample).toBe(101 * FRAME)
    stage.transport.step(-2)
    expect(stage.transport.frame).toBe(99)
  })

  it('plays from the gate, and time is what sounds at the next refresh', async () => {
    const { transport, engine, clock } = stage
    transport.goToFrame(100)
    await play()
    expect(engine.played).toEqual([{ from: 100 * FRAME, speed: 1, loop: null }])
    clock.pass(1000 - 16)
    expect(transport.sample).toBe(100 * FRAME + 48_000)
    expect(transport.rolling).toBe(true)
  })

  it('stops on the frame that was seen, not on the one that sounds', async () => {
    const { transport, clock } = stage
    await play()
    clock.pass(1000)
    transport.seen = 23 as never
    expect(transport.frameOnScreen).toBe(23)
    transport.stop()
    expect([transport.sample, transport.rolling]).toEqual([23 * FRAME, false])
    transport.toggle()
    expect(transport.rolling).toBe(true)
  })

  it('goes on from where it is at another speed', async () => {
    const { transport, engine, clock } = stage
    await play()
    clock.pass(1000 - 16)
    transport.setSpeed(0.5)
    await settle()
    expect(engine.played.at(-1)).toEqual({ from: 48_000, speed: 0.5, loop: null })
    transport.setSpeed(0.5)
    expect(engine.played).toHaveLength(2)
    clock.pass(1000)
    expect(transport.sample).toBe(48_000 + 24_000 + 16 * 24)
  })

  it('goes on playing from where one jumps to', async () => {
    const { transport, engine } = stage
    await play()
    transport.goToFrame(500)
    await settle()
    expect(engine.played.at(-1)?.from).toBe(500 * FRAME)
    expect(transport.rolling).toBe(true)
  })

  it('stops by itself on the last frame', async () => {
    const { transport, clock } = stage
    transport.goToFrame(14_390)
    await play()
    clock.pass(10)
    clock.pass(1000)
    expect([transport.rolling, transport.frame]).toEqual([false, 14_399])
  })

  it('goes round: a reel outside the loop goes to its beginning, one within goes on without a new start', async () => {
    const { transport, engine, clock } = stage
    const loop = { from: 48_000, to: 96_000 }
    transport.setLoop(loop)
    expect([transport.sample, transport.loop]).toEqual([48_000, loop])
    await play()
    clock.pass(500)
    const wider = { from: 24_000, to: 192_000 }
    transport.setLoop(wider)
    expect(engine.played.at(-1)?.loop).toEqual(wider)
    expect(engine.stops).toBe(0)
    transport.setLoop({ from: 960_000, to: 980_000 })
    await settle()
    expect(engine.played.at(-1)?.from).toBe(960_000)
    transport.setLoop(null)
    expect(transport.loop).toBeNull()
  })

  it('says why it can’t play, and stands', async () => {
    const { transport, engine } = stage
    const said: string[] = []
    transport.onError = (text) => said.push(text)
    engine.trouble = new Error('No sound in this browser.')
    await play()
    expect([said, transport.rolling]).toEqual([['No sound in this browser.'], false])
  })

  it('tells the feeder where it is now and then, and is silent once it is done with', async () => {
    const { transport, engine, clock } = stage
    await play()
    for (let count = 0; count < 10; count++) clock.pass(50)
    expect(engine.positions.length).toBeGreaterThanOrEqual(2)
    expect(engine.positions.length).toBeLessThan(5)
    const heard: number[] = []
    transport.subscribe((sample) => heard.push(sample))
    transport.dispose()
    clock.pass(100)
    expect(heard).toHaveLength(1)
    expect(engine.stops).toBe(1)
  })
})
