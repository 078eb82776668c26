import { describe, expect, it } from 'vitest'
import { actionOf, clashesOf, type Action } from '../action.js'
import { GRID_ACTIONS } from '../gridActions.js'
import { RESULT_ACTIONS, SEARCH_ACTIONS } from '../resultActions.js'
import { SHEET_GROUPS } from '../sheetActions.js'
import { LAYOUT_NAMES } from './layouts.js'
import { isReserved } from './reserved.js'
import { isReachable, strokesOf } from './stroke.js'
import { allPresses, keyboardFor } from './test/presses.js'

const SHEET: readonly Action<never>[] = SHEET_GROUPS.flatMap(({ actions }) => actions)
const TABLES: readonly (readonly [string, readonly Action<never>[]])[] = [
  ['the Sheet', SHEET],
  ['the search', SEARCH_ACTIONS],
  ['the results', RESULT_ACTIONS],
  ['the list', GRID_ACTIONS],
]
const MACHINES = LAYOUT_NAMES.flatMap((layout) =>
  (['windows', 'linux', 'mac'] as const).map((system) => [layout, system] as const),
)

describe.each(TABLES)('the keys of %s', (_, actions) => {
  it.each(MACHINES)('are all reached on a %s keyboard under %s, without AltGr', (layout, system) => {
    const keyboard = keyboardFor(layout, system)
    const reached = new Set<string>()
    for (const press of allPresses(layout, system)) {
      const action = actionOf(actions, press, keyboard)
      const stroke = strokesOf(press, keyboard).find((one) => action?.strokes.includes(one))
      if (action && stroke) reached.add(`${action.id}: ${stroke}`)
    }
    const wanted = actions.flatMap(({ id, strokes }) => strokes.map((stroke) => `${id}: ${stroke}`))
    expect(wanted.filter((one) => !reached.has(one))).toEqual([])
    expect(actions.flatMap(({ strokes }) => strokes).filter((one) => !isReachable(one, keyboard))).toEqual([])
  })
  it('never mean two things', () => expect([...clashesOf(actions)]).toEqual([]))
  it('are none that a browser or a system keeps for itself', () => {
    expect(actions.flatMap(({ strokes }) => strokes).filter(isReserved)).toEqual([])
  })
})

it('no two actions of the Sheet have one name', () => {
  expect(new Set(SHEET.map(({ id }) => id)).size).toBe(SHEET.length)
})
