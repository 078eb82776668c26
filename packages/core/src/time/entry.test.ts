import { describe, expect, it } from 'vitest'
import { readEntry } from './entry.js'
import { FRAME_RATES } from './rates.js'
import { formatTimecode, parseTimecode } from './timecode.js'
import type { Frames } from './units.js'

const at = (text: string, here = '01:02:33:07', id: '24' | '29.97d' = '24'): string => {
  const rate = FRAME_RATES[id]
  const start = parseTimecode(here, rate)
  const result = readEntry(text, (start.ok ? start.frame : 0) as Frames, rate)
  return result.ok ? formatTimecode(result.frame, rate) : result.code
}

describe('typed entry', () => {
  it.each([
    ['1:00:10:5', '01:00:10:05'],
    ['10.05', '01:02:10:05'],
    ['1;2;3;4', '01:02:03:04'],
    ['12', '01:02:33:12'],
    ['1005', '01:02:10:05'],
    ['1001005', '01:00:10:05'],
    ['+12', '01:02:33:19'],
    ['+100', '01:02:37:11'],
    ['-1:00', '01:02:32:07'],
    ['-1:00:00', '01:01:33:07'],
  ])('%s is %s', (typed, meant) => expect(at(typed)).toBe(meant))

  it.each([
    ['', 'TC_SYNTAX'],
    ['soon', 'TC_SYNTAX'],
    ['1:2:3:4:5', 'TC_SYNTAX'],
    ['10.24', 'TC_RANGE'],
    ['61.00', 'TC_RANGE'],
    ['-9:00:00:00', 'TC_RANGE'],
  ])('refuses %j', (typed, code) => expect(at(typed)).toBe(code))

  it('refuses a dropped number and moves across one', () => {
    expect(at('1:01:00:00', '01:00:00;00', '29.97d')).toBe('TC_DROPPED')
    expect(at('+1', '01:00:59;29', '29.97d')).toBe('01:01:00;02')
  })
})
