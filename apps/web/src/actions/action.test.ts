import { describe, expect, it } from 'vitest'
import { actionOf, type Action, type Held } from './action.js'

const action = (press: string, held?: Held): Action<void> => ({
  press,
  ...(held ? { held } : {}),
  what: `${held ?? ''} ${press}`.trim(),
  run: () => undefined,
})
const actions = [
  action('o'),
  action('o', 'shift'),
  action('?'),
  action('ArrowDown'),
  action('ArrowDown', 'alt'),
  action('ArrowDown', 'alt shift'),
  action('Delete'),
  action('+'),
  action('z', 'ctrl'),
]
const press = (key: string, held = ''): string | null => {
  const has = (name: string): boolean => held.includes(name)
  return (
    actionOf(actions, {
      key,
      shiftKey: has('shift'),
      altKey: has('alt'),
      ctrlKey: has('ctrl'),
      metaKey: has('meta'),
    })?.what ?? null
  )
}

describe('a key press', () => {
  it('means the action with just its modifiers', () => {
    expect([
      press('o'),
      press('O', 'shift'),
      press('ArrowDown', 'alt'),
      press('ArrowDown', 'alt shift'),
    ]).toEqual(['o', 'shift o', 'alt ArrowDown', 'alt shift ArrowDown'])
    expect([
      press('z'),
      press('z', 'ctrl'),
      press('z', 'meta'),
      press('o', 'ctrl'),
      press('o', 'alt'),
    ]).toEqual([null, 'ctrl z', 'ctrl z', null, null])
  })
  it('may need Shift for a sign, with Caps Lock on as well, or have a twin', () => {
    expect([press('?', 'shift'), press('O'), press('Backspace'), press('=')]).toEqual([
      '?',
      'o',
      'Delete',
      '+',
    ])
  })
})
