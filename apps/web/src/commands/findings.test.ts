import { NO_AIMS, type TurnoverFacts } from '@yodel/core'
import { beforeEach, describe, expect, it } from 'vitest'
import { api } from '../api/api.js'
import { findingKey, openFindings } from '../session/findings.js'
import { setPlaced, stage } from '../test/placedStage.js'

const facts: TurnoverFacts = {
  ...{ picture: null, mix: null, edges: [], recipe: NO_AIMS },
  sounds: [
    { id: 's', name: 'Lever', state: 'here', licence: 'CC0', source: '', sampleRate: 48_000, length: 48_000 },
  ],
}
const open = () => openFindings(stage.store.getState())
const worked = () => stage.store.getState().view.workedOff

describe('findings', () => {
  beforeEach(async () => {
    setPlaced()
    const reelId = stage.store.getState().document.reelId ?? ''
    await stage.store.dispatch(api.util.upsertQueryData('facts', { reelId, recipeId: 'mixer' }, facts))
  })

  it('are worked off one after the other, round and round: the gate stands at each and it is selected', () => {
    const [first, second] = open()
    stage.commands.findings.next(1)
    expect(worked()).toEqual({ key: findingKey(first!), at: 0 })
    if (first!.at) expect(stage.transport.frame).toBe(first!.at.from)
    stage.commands.findings.next(1)
    expect(worked()?.key).toBe(findingKey(second!))
    stage.commands.findings.next(-1)
    stage.commands.findings.next(-1)
    expect(worked()?.key).toBe(findingKey(open().at(-1)!))
    stage.commands.findings.next(1)
    expect(worked()?.at).toBe(0)
    stage.commands.findings.leave()
    expect(worked()).toBeNull()
  })

  it('that are mended leave their place to the next one', () => {
    const loose = open().findIndex(({ check }) => check === 'loose')
    const [one, next] = open().slice(loose)
    stage.commands.findings.show(one!)
    expect(stage.selected()).toEqual(one!.about)
    stage.commands.shape.remove()
    expect(open().map(findingKey)).not.toContain(findingKey(one!))
    stage.commands.findings.next(1)
    expect(worked()).toEqual({ key: findingKey(next!), at: loose })
  })

  it('that are none are said to be none', () => {
    const before = stage.store.getState().view.notices.length
    stage.store.dispatch(api.util.resetApiState())
    stage.commands.findings.next(1)
    expect(worked()).toBeNull()
    expect(stage.store.getState().view.notices.length).toBe(before + 1)
  })
})
