import { expect, it } from 'vitest'
import { calledKey } from './calledKey.js'
import { keyboardFor } from './test/presses.js'

it.each([
  ['Alt [', 'Option Ü'],
  ['X', 'Option N'],
  ['Y', 'no key'],
  ['Ctrl D', 'Cmd D'],
  ['-', 'ß'],
  ['Tab', 'Tab'],
  ['length<2', null],
  ['+12', null],
  ['car', null],
])('a text says %s, a German Mac with keys of its own %s', (text, called) => {
  expect(calledKey(text, keyboardFor('german', 'mac'), { split: ['Alt n'], reverse: [] })).toBe(called)
})
