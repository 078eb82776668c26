import { describe, expect, it } from 'vitest'
import type { Commands } from '../commands/commands.js'
import { actionOf, readTable, withOwnKeys, type Action } from './action.js'
import { GRID_ACTIONS, type GridHands } from './gridActions.js'
import { RESULT_ACTIONS, SEARCH_ACTIONS, type ResultHands } from './resultActions.js'
import { usPress, US_KEYBOARD, type Holding } from './keyboard/test/presses.js'
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

const tables: readonly (readonly [string, readonly Action<never>[]])[] = [
  ['the Sheet', [...SHEET_ACTIONS, ...REEL_ACTIONS]],
  ['the search', SEARCH_ACTIONS],
  ['the list', GRID_ACTIONS],
]

describe.each(tables)('the actions of %s', (_, actions) => {
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

  it.each<[string, Holding, string]>([
    ['KeyO', {}, 'move.onset(1)'],
    ['KeyO', { shift: true }, 'move.onset(-1)'],
    ['Space', {}, 'move.toggle()'],
    ['Digit3', {}, 'spot.drop(BG)'],
    ['ArrowDown', { alt: true, shift: true }, 'gate.nudgeTenths(1)'],
    ['Backspace', {}, 'shape.remove()'],
    ['Equal', {}, 'move.zoomBy(1.25)'],
    ['KeyG', { ctrl: true }, 'shape.group()'],
    ['Slash', { shift: true }, 'look.keys()'],
    ['Digit4', { alt: true }, 'results.rate(4)'],
  ])('hears %s with %j as %s', (code, held, wanted) => {
    const { hands, asked } = noting<Commands>()
    actionOf(SHEET_ACTIONS, usPress(code, held), US_KEYBOARD)?.run(hands)
    expect(asked.at(-1)).toBe(wanted)
  })

  it('ends a cue when its key is released', () => {
    const { hands, asked } = noting<Commands>()
    const release = actionOf(SHEET_ACTIONS, usPress('Digit1'), US_KEYBOARD)?.run(hands)
    release?.()
    expect(asked).toEqual(['spot.drop(FX)', 'spot.release(new cue)'])
  })

  it('does not hear what nobody has bound', () => {
    for (const code of ['F9', 'Backquote', 'Digit9', 'Tab'])
      expect(actionOf(SHEET_ACTIONS, usPress(code), US_KEYBOARD)).toBeNull()
    expect(actionOf(SHEET_ACTIONS, usPress('KeyO', { alt: true, ctrl: true }), US_KEYBOARD)).toBeNull()
  })
})

describe('the results', () => {
  it('have the arrows for events, which belong to the text in the field', () => {
    const asked = (actions: readonly Action<ResultHands>[], press: string, held: Holding = {}): string[] => {
      const { hands, asked: all } = noting<ResultHands>()
      actionOf(actions, usPress(press, held), US_KEYBOARD)?.run(hands)
      return all
    }
    expect(asked(RESULT_ACTIONS, 'ArrowRight')).toEqual(['stepEvent(1)'])
    expect(asked(SEARCH_ACTIONS, 'ArrowRight')).toEqual([])
    expect(asked(SEARCH_ACTIONS, 'Enter')).toEqual(['enter()'])
    expect(asked(RESULT_ACTIONS, 'ArrowDown')).toEqual(['step(1)'])
    expect(asked(RESULT_ACTIONS, 'ArrowUp', { shift: true })).toEqual(['mark(-1)'])
    // There they mark what is written.
    expect(asked(SEARCH_ACTIONS, 'ArrowUp', { shift: true })).toEqual([])
  })
})

describe('the list', () => {
  it.each<[string, Holding, string]>([
    ['ArrowDown', {}, 'move(1, 0)'],
    ['ArrowDown', { shift: true }, 'move(1, 0, true)'],
    ['ArrowUp', { ctrl: true }, 'move(-1000000, 0)'],
    ['Tab', { shift: true }, 'move(0, -1)'],
    ['Delete', {}, 'clear()'],
    ['Delete', { ctrl: true }, 'removeCues()'],
    ['F2', {}, 'begin()'],
  ])('hears %s with %j as %s', (code, held, wanted) => {
    const { hands, asked } = noting<GridHands>()
    actionOf(GRID_ACTIONS, usPress(code, held), US_KEYBOARD)?.run(hands)
    expect(asked.map((one) => one.replace('null', ''))).toEqual([wanted])
  })
})

describe('a table', () => {
  const table = readTable<void>([
    ['play', 'Space', 'Play', () => undefined],
    ['redo', 'Ctrl Shift z or Ctrl y', 'Redo', () => undefined],
    ['tidy', '', 'Tidy up', () => undefined],
  ])
  it('gives an action one key, several or none', () => {
    expect(table.map(({ strokes }) => strokes)).toEqual([['Space'], ['Ctrl Shift z', 'Ctrl y'], []])
  })
  it('gives way to keys of one’s own', () => {
    const own = withOwnKeys(table, { play: ['p'], redo: [] })
    expect(own.map(({ strokes }) => strokes)).toEqual([['p'], [], []])
    expect(actionOf(own, usPress('KeyP'), US_KEYBOARD)?.id).toBe('play')
    expect(actionOf(own, usPress('Space'), US_KEYBOARD)).toBeNull()
  })
})
