import { beforeEach, describe, expect, it } from 'vitest'
import { viewActions } from '../document/viewSlice.js'
import { FRAME, clip, cue, roll, select, setPlaced, stage } from '../test/placedStage.js'
import { settle } from '../test/stage.js'

beforeEach(setPlaced)

describe('spotting', () => {
  it('drops a cue on the frame that is on screen and selects it; its words are typed at the key’s release', () => {
    stage.transport.goToFrame(200)
    const id = stage.commands.spot.drop('FOL') ?? ''
    expect(cue(id)).toMatchObject({ category: 'FOL', number: 1, in: 200, out: 201, sync: 200 })
    expect(stage.selected()).toEqual([id])
    expect(stage.store.getState().view.typing).toBeNull()
    stage.commands.spot.release(id)
    expect(stage.store.getState().view.typing).toBe(id)
    expect(cue(id).out).toBe(201)
    stage.commands.spot.typed()
    expect(stage.store.getState().view.typing).toBeNull()
  })

  it('lasts for as long as its key is held while the reel rolls, and a tap is no span', async () => {
    await roll(1000)
    const tap = stage.commands.spot.drop('FX') ?? ''
    stage.clock.pass(100)
    stage.commands.spot.release(tap)
    expect(cue(tap).out - cue(tap).in).toBe(1)
    const held = stage.commands.spot.drop('FX') ?? ''
    stage.clock.pass(1000)
    stage.commands.spot.release(held)
    expect(cue(held).out - cue(held).in).toBe(24)
  })

  it('does nothing at the release of a cue that has gone meanwhile', () => {
    const id = stage.commands.spot.drop('FX') ?? ''
    stage.commands.undo()
    stage.commands.spot.release(id)
    expect(stage.store.getState().view.typing).toBeNull()
  })

  it('repeats the last cue with its words and length, or says that there is none', () => {
    stage.commands.spot.again()
    expect(stage.told()).toMatch(/Nothing has been spotted yet/)
    stage.store.dispatch(viewActions.spotted('q'))
    stage.transport.goToFrame(300)
    stage.commands.spot.again()
    expect(cue(stage.selected()[0] ?? '')).toMatchObject({ in: 300, out: 350, words: 'door', number: 2 })
  })

  it('sets in, out and sync of the cue at the gate; the out is the last frame seen', () => {
    select('q')
    stage.transport.goToFrame(110)
    stage.commands.spot.setIn()
    expect(cue('q')).toMatchObject({ in: 110, sync: 110, out: 150 })
    stage.transport.goToFrame(120)
    stage.commands.spot.setSync()
    stage.transport.goToFrame(130)
    stage.commands.spot.setOut()
    expect(cue('q')).toMatchObject({ in: 110, sync: 120, out: 131 })
    stage.transport.goToFrame(115)
    stage.commands.spot.setIn()
    expect(cue('q')).toMatchObject({ in: 115, sync: 120 })
  })

  it('sets the ends and the sync point of a sound instead, where one is selected', () => {
    select('c')
    stage.transport.goToFrame(108)
    stage.commands.spot.setIn()
    expect(clip('c').start).toBe(108 * FRAME)
    stage.transport.goToFrame(112)
    stage.commands.spot.setOut()
    expect(clip('c').start + clip('c').length).toBe(113 * FRAME)
    stage.commands.spot.setSync()
    expect(clip('c').start + clip('c').sync - clip('c').offset).toBe(112 * FRAME)
  })

  it('says what to select where nothing is', () => {
    stage.commands.spot.setOut()
    expect(stage.told()).toBe('Select a cue or a sound first; then ] sets its out at the gate.')
  })

  it('begins a note on the selected cue, or at the gate', () => {
    const noting = () => stage.store.getState().view.noting
    stage.transport.goToFrame(77)
    stage.commands.spot.note()
    expect(noting()).toEqual({ cueId: null, frame: 77 })
    select('q')
    stage.commands.spot.note()
    expect(noting()).toEqual({ cueId: 'q', frame: 100 })
  })
})

describe('moving in time', () => {
  it('goes from cue to cue, on from where one is', () => {
    stage.commands.move.nextCue()
    expect([stage.transport.frame, stage.selected()]).toEqual([100, ['q']])
    stage.commands.move.nextCue()
    expect(stage.selected()).toEqual(['q2'])
    stage.commands.move.nextCue()
    expect(stage.selected()).toEqual(['q2'])
    stage.commands.move.previousCue()
    expect(stage.selected()).toEqual(['q'])
    stage.transport.goToFrame(420)
    stage.commands.move.previousCue()
    expect(stage.selected()).toEqual(['q2'])
  })

  it('goes to onsets and cuts, and says when there are no more', () => {
    stage.session.marks.current = { onsets: [50, 90], cuts: [70] }
    stage.commands.move.onset(1)
    stage.commands.move.onset(1)
    expect(stage.transport.frame).toBe(90)
    stage.commands.move.onset(1)
    expect(stage.told()).toBe('There is no later onset.')
    stage.commands.move.cut(-1)
    expect(stage.transport.frame).toBe(70)
    stage.commands.move.cut(-1)
    expect(stage.told()).toBe('There is no earlier cut.')
    stage.transport.goToFrame(78)
    stage.commands.move.snap()
    expect(stage.transport.frame).toBe(70)
    stage.transport.goToFrame(1000)
    stage.commands.move.snap()
    expect(stage.told()).toMatch(/within half a second/)
  })

  it('steps back by seconds, to the ends, and speeds up and down while rolling', async () => {
    const { move } = stage.commands
    stage.transport.goToFrame(200)
    move.back()
    expect(stage.transport.frame).toBe(200 - 72)
    move.slower()
    expect(stage.transport.frame).toBe(200 - 72 - 48)
    move.stepSeconds(1)
    expect(stage.transport.frame).toBe(200 - 72 - 24)
    move.last()
    expect(stage.transport.frame).toBe(14_399)
    move.first()
    move.faster()
    await settle()
    move.slower()
    move.slower()
    expect(stage.transport.speed).toBe(0.25)
    move.faster()
    expect(stage.transport.speed).toBe(0.5)
    move.stop()
    expect(stage.transport.rolling).toBe(false)
    move.toggle()
    expect(stage.transport.rolling).toBe(true)
  })

  it('zooms within its bounds', () => {
    const zoom = () => stage.store.getState().view.zoom
    for (let count = 0; count < 60; count++) stage.commands.move.zoomBy(1.25)
    expect(zoom()).toBe(48)
    for (let count = 0; count < 99; count++) stage.commands.move.zoomBy(0.8)
    expect(zoom()).toBe(0.02)
  })
})
