import { cuesInOrder, rideOf } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { viewActions } from '../document/viewSlice.js'
import { clip, FRAME, reel, select, setPlaced, stage } from '../test/placedStage.js'

beforeEach(setPlaced)

describe('placed sounds', () => {
  it('are nudged by frames and tenths, the gate with them', () => {
    select('c')
    stage.commands.gate.nudgeFrames(3)
    expect(clip('c').start).toBe(110 * FRAME - 12_000 + 3 * FRAME)
    expect(stage.transport.frame).toBe(113)
    stage.commands.gate.nudgeTenths(-5)
    expect(clip('c').start).toBe(110 * FRAME - 12_000 + 3 * FRAME - 1000)
    select()
    stage.commands.gate.nudgeFrames(1)
    expect(stage.told()).toMatch(/Select a sound first/)
  })

  it('fade up to the gate and out from it, several as one step', () => {
    select('c')
    stage.transport.goToFrame(106)
    stage.commands.gate.fadeInToGate()
    expect(clip('c').fadeIn).toBe(106 * FRAME - clip('c').start)
    stage.transport.goToFrame(120)
    stage.commands.gate.fadeOutFromGate()
    expect(clip('c').fadeOut).toBe(clip('c').start + clip('c').length - 120 * FRAME)
    expect(stage.store.getState().document.pending).toHaveLength(2)
    select()
    stage.commands.gate.fadeInToGate()
    expect(stage.told()).toBe('Select a sound first.')
  })

  it('slip inside, roll their boundary, and move to the track beside', () => {
    select('a')
    // Both are whole: neither recording has anything more to give at the boundary.
    stage.commands.gate.rollFrames(-2)
    expect([clip('a'), clip('b')]).toEqual([reel.clip.get('a'), reel.clip.get('b')])
    select('b')
    stage.transport.goToFrame(120)
    stage.commands.spot.setIn()
    select('a')
    stage.commands.gate.rollFrames(1)
    expect(stage.told()).toBe('Nothing meets the end of Lever.')
    select('b')
    stage.commands.gate.slipFrames(1)
    expect([clip('b').offset, clip('b').start]).toEqual([4000 - FRAME, 120 * FRAME])
    select('c')
    stage.commands.gate.rollFrames(1)
    expect(stage.told()).toBe('Nothing meets the end of Lever.')
    stage.commands.gate.moveAcross(-1)
    expect(stage.told()).toMatch(/sound over/)
    select()
    stage.commands.gate.moveAcross(1)
    expect(stage.told()).toMatch(/moves to the track beside/)
  })

  it('are split, duplicated, reversed, mirrored, locked, grouped, each as one step that is taken back', () => {
    const { shape } = stage.commands
    select('c')
    stage.transport.goToFrame(112)
    shape.split()
    expect(stage.doc().clip.size).toBe(4)
    expect(stage.selected()).toHaveLength(1)
    select('c')
    shape.reverse()
    shape.swapSides()
    shape.toggleLock()
    expect(clip('c')).toMatchObject({ reverse: true, sides: 'swapped', locked: true })
    shape.toggleLock()
    select('a', 'b')
    shape.group()
    expect(clip('a').group).toBe(clip('b').group)
    expect(clip('a').group).not.toBe('')
    shape.ungroup()
    expect(clip('a').group).toBe('')
    shape.mute()
    expect([clip('a').mute, clip('b').mute]).toEqual([true, true])
    shape.gainBy(2)
    shape.stepGain(-3)
    expect([clip('a').gain, clip('b').gain]).toEqual([-1, -4])
    const { pending } = stage.store.getState().document
    for (const _ of pending) stage.commands.undo()
    expect(stage.doc().clip).toEqual(reel.clip)
  })

  it('are copied, cut and pasted at the gate, into the selected cue', () => {
    const { shape } = stage.commands
    shape.paste()
    expect(stage.told()).toMatch(/Nothing was copied/)
    select('c')
    shape.copy()
    expect(stage.told()).toBe('Lever copied. Pasted, it lies at the gate.')
    select('q')
    stage.transport.goToFrame(600)
    shape.paste()
    const [id = ''] = stage.selected()
    expect(clip(id)).toMatchObject({ cueId: 'q', start: 600 * FRAME - 12_000 })
    shape.cut()
    expect(stage.doc().clip.has(id)).toBe(false)
    select()
    shape.copy()
    expect(stage.told()).toMatch(/then it can be copied/)
  })

  it('are repeated to the end of their cue, or to the gate', () => {
    select('c')
    stage.transport.goToFrame(200)
    stage.commands.shape.repeat()
    const ends = [...stage.doc().clip.values()]
      .filter((one) => one.trackId === 't-c')
      .map((one) => one.start + one.length)
    expect(Math.max(...ends)).toBe(200 * FRAME)
  })

  it('and cues are deleted together, whatever is selected', () => {
    select('c', 'q2')
    stage.commands.shape.remove()
    expect([stage.doc().clip.has('c'), stage.doc().cue.has('q2'), stage.selected()]).toEqual([
      false,
      false,
      [],
    ])
    stage.commands.shape.remove()
    expect(stage.store.getState().document.pending).toHaveLength(1)
  })

  it.each([
    ['split', /split at the gate/],
    ['duplicate', /duplicated/],
    ['crossfade', /crossfaded/],
    ['reverse', /reversed/],
    ['swapSides', /mirrored/],
    ['repeat', /repeated/],
    ['cut', /cut out/],
    ['toggleLock', /locked/],
    ['group', /grouped/],
    ['ungroup', /taken apart/],
    ['mute', /M mutes it/],
  ] as const)('say what to select before they can be shaped by %s', (name, says) => {
    stage.commands.shape[name]()
    expect(stage.told()).toMatch(says)
    expect(stage.doc()).toEqual(reel)
  })
})

describe('selecting', () => {
  it('takes all sounds, those after the gate, those alike, or nothing', () => {
    const { select: by } = stage.commands
    by.all()
    expect(stage.selected()).toEqual(['a', 'c', 'b'])
    stage.transport.goToFrame(105)
    by.afterGate()
    expect(stage.selected()).toEqual(['c', 'b'])
    by.like('track')
    expect(stage.selected()).toEqual(['c'])
    by.nothing()
    expect(stage.selected()).toEqual([])
    by.like('sound')
    expect(stage.told()).toMatch(/those like it/)
    stage.transport.goToFrame(2000)
    by.afterGate()
    expect(stage.told()).toBe('There is no sound after the gate.')
  })
})

describe('tracks and rides', () => {
  it('are soloed, alone or with others, and taken out when they are empty', () => {
    const { tracks } = stage.commands
    tracks.solo()
    expect(stage.told()).toMatch(/its track is what is soloed/)
    select('a')
    tracks.solo()
    select('c')
    tracks.soloOnly()
    expect([...stage.doc().track.values()].map((track) => track.solo)).toEqual([false, true])
    stage.commands.shape.remove()
    tracks.removeEmpty()
    expect([...stage.doc().track.keys()]).toEqual(['t-a'])
    tracks.removeEmpty()
    expect(stage.told()).toMatch(/there are none/)
  })

  it('are drawn, ridden and followed for the selected sound’s track', () => {
    const { rides } = stage.commands
    const view = () => stage.store.getState().view
    rides.live()
    expect(stage.told()).toMatch(/can be ridden/)
    rides.show()
    rides.show()
    expect(view().ride).toBe('pan')
    rides.show()
    expect(view().ride).toBeNull()
    select('c')
    rides.live()
    expect(view().riding).toMatchObject({ trackId: 't-c', what: 'level' })
    expect(rides.by(2)).toBe(true)
    expect(rides.endLive()).toBe(true)
    expect(rides.endLive()).toBe(false)
    select('c')
    rides.follow()
    expect(view().following).toEqual({ trackId: 't-c', seen: [] })
    expect(rides.endFollowing(false)).toBe(true)
    expect(rideOf(stage.doc(), 't-c', 'pan')).toEqual([])
    rides.follow()
    stage.store.dispatch(
      viewActions.setFollowing({
        trackId: 't-c',
        seen: [
          [0, 0],
          [48_000, 1],
        ],
      }),
    )
    expect(rides.endFollowing(true)).toBe(true)
    expect(rideOf(stage.doc(), 't-c', 'pan').length).toBeGreaterThan(1)
    expect(rides.endFollowing(true)).toBe(false)
  })
})

describe('undo and redo', () => {
  it('go back through everything and on again', () => {
    for (const at of [500, 600, 700]) {
      stage.transport.goToFrame(at)
      stage.commands.spot.drop('FX')
    }
    expect(cuesInOrder(stage.doc())).toHaveLength(5)
    for (let count = 0; count < 9; count++) stage.commands.undo()
    expect(stage.doc().cue).toEqual(reel.cue)
    for (let count = 0; count < 2; count++) stage.commands.redo()
    expect(cuesInOrder(stage.doc()).map((one) => one.in)).toEqual([100, 400, 500, 600])
  })
})
