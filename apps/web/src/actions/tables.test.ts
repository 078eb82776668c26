import { describe, expect, it } from 'vitest'
import type { Commands } from '../commands/commands.js'
import { actionOf, readTable, writtenKey, type Action, type Press } from './action.js'
import { GRID_ACTIONS, type GridHands } from './gridActions.js'
import { RESULT_ACTIONS, SEARCH_ACTIONS, type ResultHands } from './resultActions.js'
import { REEL_ACTIONS, SHEET_ACTIONS } from './sheetActions.js'

/** Hands that write down what they are asked for: `move.onset(1)`. */
function noting<Hands extends object>(): { hands: Hands; asked: string[] } {
  const asked: string[] = []
  const handsAt = (path: string): object =>
    new Proxy(() => undefined, {
      get: (_, name) => handsAt(path ? `${path}.${String(name)}` : String(name)),
      apply: (_, __, args: unknown[]) => {
        asked.push(`${path}(${args.map(String).join(', ')})`)
        return path.endsWith('results') ? handsAt('results') : path.endsWith('drop') ? 'new cue' : undefined
      },
    })
  return { hands: handsAt('') as Hands, asked }
}

/** A press as a browser reports it: letters upper case with Shift. */
function pressOf(action: Pick<Action<never>, 'press' | 'held'>): Press {
  const { press } = action
  const held: string = action.held ?? ''
  const shiftKey = held.includes('shift')
  const key = press.length === 1 && shiftKey ? press.toUpperCase() : press
  return { key, shiftKey, altKey: held.includes('alt'), ctrlKey: held.includes('ctrl'), metaKey: false }
}

const tables: readonly (readonly [string, readonly Action<never>[]])[] = [
  ['the Sheet', [...SHEET_ACTIONS, ...REEL_ACTIONS]],
  ['the search', SEARCH_ACTIONS],
  ['the list', GRID_ACTIONS],
]

describe.each(tables)('the actions of %s', (_, actions) => {
  it('are each reached by their own key, and by no other’s', () => {
    for (const action of actions) expect(actionOf(actions, pressOf(action))).toBe(action)
  })
  it('say what they do in words that begin with a capital and end without a stop', () => {
    for (const { what } of actions) expect(what).toMatch(/^[A-Z].*[^.]$/)
  })
})

describe('the Sheet', () => {
  it('asks the commands, once for each press', () => {
    for (const action of SHEET_ACTIONS) {
      const { hands, asked } = noting<Commands>()
      action.run(hands)
      expect(asked.length, action.what).toBeGreaterThan(0)
      expect(asked.length, action.what).toBeLessThanOrEqual(2)
    }
  })

  it.each([
    [{ key: 'o' }, 'move.onset(1)'],
    [{ key: 'O', shiftKey: true }, 'move.onset(-1)'],
    [{ key: ' ' }, 'move.toggle()'],
    [{ key: '3' }, 'spot.drop(BG)'],
    [{ key: 'ArrowDown', altKey: true, shiftKey: true }, 'gate.nudgeTenths(1)'],
    [{ key: 'Backspace' }, 'shape.remove()'],
    [{ key: '=' }, 'move.zoomBy(1.25)'],
    [{ key: 'g', metaKey: true }, 'shape.group()'],
    [{ key: '?', shiftKey: true }, 'look.keys()'],
    [{ key: '4', altKey: true }, 'results.rate(4)'],
  ])('hears %j as %s', (pressed, wanted) => {
    const { hands, asked } = noting<Commands>()
    const press = { shiftKey: false, altKey: false, ctrlKey: false, metaKey: false, ...pressed }
    actionOf(SHEET_ACTIONS, press)?.run(hands)
    expect(asked.at(-1)).toBe(wanted)
  })

  it('ends a cue when its key is released', () => {
    const { hands, asked } = noting<Commands>()
    const release = actionOf(SHEET_ACTIONS, pressOf({ press: '1' }))?.run(hands)
    release?.()
    expect(asked).toEqual(['spot.drop(FX)', 'spot.release(new cue)'])
  })

  it('does not hear what nobody has bound', () => {
    for (const key of ['F9', 'ü', '9', 'Tab'])
      expect(actionOf(SHEET_ACTIONS, pressOf({ press: key }))).toBeNull()
    expect(actionOf(SHEET_ACTIONS, { ...pressOf({ press: 'o' }), altKey: true, ctrlKey: true })).toBeNull()
  })
})

describe('the results', () => {
  it('have the arrows for events, which belong to the text in the field', () => {
    const asked = (actions: readonly Action<ResultHands>[], press: string): string[] => {
      const { hands, asked: all } = noting<ResultHands>()
      actionOf(actions, pressOf({ press }))?.run(hands)
      return all
    }
    expect(asked(RESULT_ACTIONS, 'ArrowRight')).toEqual(['stepEvent(1)'])
    expect(asked(SEARCH_ACTIONS, 'ArrowRight')).toEqual([])
    expect(asked(SEARCH_ACTIONS, 'Enter')).toEqual(['enter()'])
    expect(asked(RESULT_ACTIONS, 'ArrowDown')).toEqual(['step(1)'])
  })
})

describe('the list', () => {
  it.each([
    [{ press: 'ArrowDown' }, 'move(1, 0)'],
    [{ press: 'ArrowDown', held: 'shift' }, 'move(1, 0, true)'],
    [{ press: 'ArrowUp', held: 'ctrl' }, 'move(-1000000, 0)'],
    [{ press: 'Tab', held: 'shift' }, 'move(0, -1)'],
    [{ press: 'Delete' }, 'clear()'],
    [{ press: 'Delete', held: 'ctrl' }, 'removeCues()'],
    [{ press: 'F2' }, 'begin()'],
  ] as const)('hears %j as %s', (press, wanted) => {
    const { hands, asked } = noting<GridHands>()
    actionOf(GRID_ACTIONS, pressOf(press))?.run(hands)
    expect(asked.map((one) => one.replace('null', ''))).toEqual([wanted])
  })
})

describe('a table', () => {
  it('is read from what is pressed, in the order of the hand', () => {
    const [space, letter, sign] = readTable<void>([
      ['Space', 'Play', () => undefined],
      ['Ctrl Shift g', 'Ungroup', () => undefined],
      ['Alt -', 'Softer', () => undefined],
    ])
    expect([space, letter, sign]).toMatchObject([
      { press: ' ' },
      { press: 'g', held: 'ctrl shift' },
      { press: '-', held: 'alt' },
    ])
    expect([space, letter, sign].map((action) => action && writtenKey(action))).toEqual([
      'Space',
      'Ctrl Shift G',
      'Alt −',
    ])
    expect(writtenKey({ press: 'ArrowDown', held: 'alt' })).toBe('Alt ↓')
    expect(writtenKey({ press: 'PageDown' })).toBe('PageDown')
  })
})
