import { EFFECTS, PRESETS, type Effect } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { rowsOf, SETTING_ROWS } from './settingRows.js'

const effects = Object.keys(EFFECTS) as Effect[]

describe.each(effects)('the settings of the %s', (effect) => {
  const schema = EFFECTS[effect]

  it('have a row each, but for the room and the place, which are chosen', () => {
    const fields = Object.keys(schema.shape).filter((field) => field !== 'room' && field !== 'place')
    expect(SETTING_ROWS[effect].map(({ field }) => field).toSorted()).toEqual(fields.toSorted())
  })

  it('can be pulled to both ends and stay what the reel may hold', () => {
    const [preset] = PRESETS[effect]
    for (const { field, low, high } of SETTING_ROWS[effect]) {
      for (const value of [low, high]) {
        expect(schema.safeParse({ ...preset?.settings, [field]: value }).success, `${field} ${value}`).toBe(
          true,
        )
      }
    }
  })

  it('ship with presets that the reel may hold, each with its own name', () => {
    const names = PRESETS[effect].map(({ name }) => name)
    expect(new Set(names).size).toBe(names.length)
    for (const { settings } of PRESETS[effect]) expect(schema.safeParse(settings).success).toBe(true)
  })
})

it.each([
  ['telephone', ['amount', 'distance', 'broken']],
  ['tannoy', ['amount', 'size', 'distance', 'broken']],
  ['door', ['amount', 'size', 'distance']],
] as const)('the %s shows what it can be set to', (place, fields) => {
  const insert = {
    ...({ kind: 'insert', id: 'i', on: 't', order: 'a0', bypass: false, effect: 'place' } as const),
    ...{ place, amount: 1, size: 1, distance: 0, broken: 0.5 },
  }
  expect(rowsOf(insert).map(({ field }) => field)).toEqual(fields)
})
