import {
  addInsert,
  addTrack,
  apply,
  editTrack,
  expectOk,
  gainFromDb,
  type RenderPlan,
  type Sound,
} from '@yodel/core'
import { expect, it } from 'vitest'
import { tryActions } from '../document/trySlice.js'
import { viewActions } from '../document/viewSlice.js'
import { FakeEngine } from '../test/FakeEngine.js'
import { setStage } from '../test/stage.js'
import { testReel } from '../../../../packages/core/src/test/testReel.js'
import { Listening } from './Listening.js'

const sound = { id: 's', name: 'Bell', length: 48_000, sync: 0, channels: 1, measured: false } as Sound

it('what is listened to is heard through the chosen track where that is wanted, and by itself otherwise', () => {
  let doc = testReel()
  doc = expectOk(apply(doc, expectOk(addTrack(doc, { id: 'far', category: 'FX' }))))
  doc = expectOk(
    apply(doc, expectOk(editTrack(doc, { id: 'far', fields: { level: -6, pan: -1 }, label: 'Far' }))),
  )
  doc = expectOk(apply(doc, expectOk(addInsert(doc, { id: 'room', on: 'far', effect: 'reverb' }))))
  const { store } = setStage(doc)
  const engine = new FakeEngine(() => 0)
  const listening = new Listening(store, engine.asEngine(), () => undefined)
  const heard = (): RenderPlan['strips'][number] | undefined => {
    listening.play(sound)
    return engine.plan.strips[0]
  }
  store.dispatch(viewActions.select(['far']))
  expect(heard()).toMatchObject({ inserts: [], level: 1, pan: 0 })
  store.dispatch(tryActions.toggleThrough())
  expect(heard()).toMatchObject({ inserts: [{ id: 'room' }], level: gainFromDb(-6), pan: -1 })
  store.dispatch(viewActions.select([]))
  expect(heard()).toMatchObject({ inserts: [], level: 1 })
})
