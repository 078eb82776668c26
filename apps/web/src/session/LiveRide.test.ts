import { rideOf } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { placed } from '../../../../packages/core/src/test/after.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { setStage, settle, type Stage } from '../test/stage.js'

let stage: Stage
beforeEach(() => {
  stage = setStage(placed(testReel(), 'a', 100))
})
const riding = () => stage.store.getState().view.riding
const points = () => rideOf(stage.doc(), 't-a', 'level')
const roll = async (): Promise<void> => {
  stage.transport.play()
  await settle()
}

describe('riding a track by hand', () => {
  it('begins at the value that the ride has, and the same again ends it', () => {
    stage.session.liveRide.toggle('t-a', 'level')
    expect(riding()).toEqual({ trackId: 't-a', what: 'level', value: 0, writing: false })
    expect(stage.store.getState().view.ride).toBe('level')
    stage.session.liveRide.toggle('t-a', 'level')
    expect(riding()).toBeNull()
  })

  it('writes nothing while the reel stands: the hand only moves', () => {
    stage.session.liveRide.toggle('t-a', 'level')
    stage.session.liveRide.to(-6)
    expect(riding()).toMatchObject({ value: -6, writing: false })
    stage.session.liveRide.end()
    expect(points()).toEqual([])
  })

  it('writes from the first touch until the stop, as one edit to take back', async () => {
    stage.session.liveRide.toggle('t-a', 'level')
    await roll()
    stage.clock.pass(500)
    stage.session.liveRide.to(-6)
    expect(riding()).toMatchObject({ writing: true })
    for (let count = 0; count < 20; count++) stage.clock.pass(50)
    stage.session.liveRide.to(-12)
    for (let count = 0; count < 10; count++) stage.clock.pass(50)
    stage.transport.stop()
    expect(points().map((point) => point.value)).toEqual(expect.arrayContaining([-6, -12]))
    expect(points().every((point) => point.at >= 24_000)).toBe(true)
    expect(stage.store.getState().document.pending).toHaveLength(1)
    stage.commands.undo()
    expect(points()).toEqual([])
  })

  it('steps by a decibel, or by a twentieth of the way, and stays within the edges', () => {
    const { liveRide } = stage.session
    expect(liveRide.by(1)).toBe(false)
    liveRide.toggle('t-a', 'level')
    expect(liveRide.by(-1)).toBe(true)
    expect(riding()?.value).toBe(-1)
    liveRide.to(99)
    expect(riding()?.value).toBe(12)
    liveRide.toggle('t-a', 'pan')
    liveRide.by(1)
    expect(riding()).toMatchObject({ what: 'pan', value: 0.05 })
    liveRide.to(-7)
    expect(riding()?.value).toBe(-1)
  })

  it('ends a pass where time jumps back, and keeps it', async () => {
    stage.session.liveRide.toggle('t-a', 'level')
    stage.transport.goToFrame(240)
    await roll()
    stage.clock.pass(100)
    stage.session.liveRide.to(3)
    for (let count = 0; count < 10; count++) stage.clock.pass(50)
    stage.transport.goToFrame(10)
    await settle()
    stage.clock.pass(50)
    expect(points().length).toBeGreaterThan(1)
    expect(riding()).toMatchObject({ writing: false })
  })

  it('goes on where the clock only slips back by a little, as on a busy machine', async () => {
    stage.session.liveRide.toggle('t-a', 'level')
    await roll()
    stage.clock.pass(500)
    stage.session.liveRide.to(-6)
    stage.clock.pass(50)
    stage.engine.slip = -100
    stage.clock.pass(50)
    expect(riding()).toMatchObject({ writing: true })
    stage.engine.slip = 0
    for (let count = 0; count < 20; count++) stage.clock.pass(50)
    stage.transport.stop()
    expect(points().at(-1)!.at).toBeGreaterThan(72_000)
    expect(stage.store.getState().document.pending).toHaveLength(1)
  })
})
