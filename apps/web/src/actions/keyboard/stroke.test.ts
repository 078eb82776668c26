import { describe, expect, it } from 'vitest'
import { guessLayout, layoutThatWrites, LAYOUT_NAMES, LAYOUTS, PLACES } from './layouts.js'
import { isReachable, strokesOf, writtenStroke, type Press } from './stroke.js'
import { keyboardFor, pressAt, usPress, US_KEYBOARD, type Holding, type System } from './test/presses.js'
import { XKB } from './test/xkb.js'

const first = (press: Press, keyboard = US_KEYBOARD): string | undefined => strokesOf(press, keyboard)[0]

describe('a press', () => {
  it.each<[string, Holding, string]>([
    ['KeyO', {}, 'o'],
    ['KeyO', { shift: true }, 'Shift o'],
    ['KeyZ', { ctrl: true, shift: true }, 'Ctrl Shift z'],
    ['ArrowDown', { alt: true, shift: true }, 'Alt Shift ArrowDown'],
    ['BracketLeft', { alt: true }, 'Alt ['],
    ['Digit3', {}, '3'],
    ['Space', {}, 'Space'],
    ['Backspace', {}, 'Delete'],
  ])('of %s with %j on a US keyboard is %s', (code, held, stroke) => {
    expect(first(usPress(code, held))).toBe(stroke)
  })
  it('with Caps Lock is still the letter alone', () => {
    expect(first({ ...usPress('KeyO'), key: 'O' })).toBe('o')
  })
  it.each<[string, keyof typeof XKB, string, Holding, string]>([
    ['Z is where it is written', 'german', 'KeyY', {}, 'z'],
    ['and with Ctrl', 'german', 'KeyY', { ctrl: true }, 'Ctrl z'],
    ['A is where it is written, with Alt as well', 'french', 'KeyQ', { alt: true }, 'Alt a'],
    ['M lies beside L', 'french', 'Semicolon', {}, 'm'],
    ['digits need no Shift', 'french', 'Digit1', {}, '1'],
    ['brackets are a place', 'german', 'BracketLeft', {}, '['],
    ['so is the backslash', 'swedish', 'Backslash', {}, '\\'],
    ['a dead key is a place', 'german', 'Equal', {}, '='],
  ])('means the same everywhere: %s', (_, layout, code, held, stroke) => {
    for (const system of ['windows', 'linux', 'mac'] satisfies System[]) {
      expect(first(pressAt(layout, system, code, held), keyboardFor(layout, system))).toBe(stroke)
    }
  })
  it('that writes a sign means the sign where nothing lies on its place', () => {
    const question = strokesOf(
      pressAt('german', 'mac', 'Minus', { shift: true }),
      keyboardFor('german', 'mac'),
    )
    expect(question).toEqual(['Shift -', '?'])
    const digit = strokesOf(
      pressAt('french', 'linux', 'Digit1', { shift: true }),
      keyboardFor('french', 'linux'),
    )
    expect(digit).toEqual(['Shift 1', '1'])
  })
  it('with AltGr is never taken for Alt, nor for the key without it', () => {
    for (const system of ['windows', 'linux'] satisfies System[]) {
      const bracket = pressAt('german', system, 'Digit8', { altGraph: true })
      expect(strokesOf(bracket, keyboardFor('german', system))).toEqual(['['])
      expect(strokesOf(pressAt('german', system, 'KeyE', { altGraph: true }), US_KEYBOARD)).toEqual(['€'])
    }
  })
  it('with Option on a Mac is Alt, also where the browser calls it AltGr as well', () => {
    const press = { ...pressAt('us', 'mac', 'KeyX', { alt: true }), getModifierState: () => true }
    expect(strokesOf(press, keyboardFor('us', 'mac'))).toEqual(['Alt x'])
  })
  it('of the block of digits means what it writes, and Home without Num Lock', () => {
    expect(first({ ...usPress('Numpad3'), key: '3' })).toBe('3')
    expect(first({ ...usPress('NumpadAdd'), key: '+' })).toBe('=')
    expect(first({ ...usPress('NumpadDecimal'), key: ',' })).toBe('.')
    expect(first({ ...usPress('Numpad7'), key: 'Home' })).toBe('Home')
  })
  it('on a Cyrillic keyboard means the Latin letter of its place, with Alt as well', () => {
    const keyboard = { keys: new Map([['KeyC', 'с']]), mac: false }
    expect(first({ ...usPress('KeyC', { ctrl: true }), key: 'с' }, keyboard)).toBe('Ctrl c')
    expect(first({ ...usPress('KeyC', { alt: true }), key: 'с' }, keyboard)).toBe('Alt c')
    expect(isReachable('c', keyboard)).toBe(true)
  })
})

describe('a stroke', () => {
  it.each([
    ['Alt [', 'german', false, 'Alt Ü'],
    ['Alt [', 'swedish', true, 'Option Å'],
    ['Ctrl Shift z', 'us', true, 'Cmd Shift Z'],
    ['\\', 'french', false, '*'],
    ['1', 'french', false, '1'],
    ['=', 'us', false, '+'],
    ['-', 'us', false, '−'],
    ['-', 'german', false, 'ß'],
    ['Alt Shift ArrowDown', 'us', false, 'Alt Shift ↓'],
    ['Delete', 'us', false, 'Del'],
    ['?', 'german', false, '?'],
    ['PageDown', 'us', false, 'PageDown'],
  ] as const)('%s is written on a %s keyboard as there', (stroke, layout, mac, written) => {
    expect(writtenStroke(stroke, { keys: LAYOUTS[layout].keys, mac })).toBe(written)
  })
  it('that this keyboard has no key for is known', () => {
    const { keys } = LAYOUTS.french
    expect(isReachable(';', { keys, mac: false })).toBe(false)
    expect(isReachable('Alt ;', { keys: LAYOUTS.us.keys, mac: false })).toBe(true)
  })
})

describe('the keyboards', () => {
  it('write what xkb-data says they write', () => {
    for (const name of LAYOUT_NAMES)
      PLACES.forEach((place, index) => {
        const sign = [...XKB[name][0]][index]
        if (sign !== '†') expect(LAYOUTS[name].keys.get(place), `${name} ${place}`).toBe(sign)
      })
  })
  it('are guessed by language, and known by a letter in another place', () => {
    expect(['de-AT', 'en-GB', 'en-US', 'fr-CA', 'fr', 'fr-CH', 'fi', 'it'].map(guessLayout)).toEqual([
      ...['german', 'uk', 'us', 'us', 'french', 'german', 'swedish', 'us'],
    ])
    expect(layoutThatWrites('KeyY', 'z', 'us')).toBe('german')
    expect(layoutThatWrites('KeyQ', 'a', 'german')).toBe('french')
    expect(layoutThatWrites('KeyA', 'a', 'german')).toBe('german')
    expect(layoutThatWrites('KeyA', 'o', 'us')).toBeNull()
  })
})
