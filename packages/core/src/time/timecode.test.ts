import SmpteTimecode from 'smpte-timecode'
import { describe, expect, it } from 'vitest'
import { FRAME_RATES, FRAME_RATE_IDS, rateFromRational } from './rates.js'
import { formatTimecode, framesPerDay, framesPerHour, parseTimecode } from './timecode.js'

const DF = FRAME_RATES['29.97d']
const frameOf = (text: string, rate = DF): number => {
  const result = parseTimecode(text, rate)
  if (!result.ok) throw new Error(result.message)
  return result.frame
}

describe('drop-frame numbering (published figures of SMPTE ST 12-1)', () => {
  it('follows 00:00:59;29 by 00:01:00;02', () => {
    expect(formatTimecode(frameOf('00:00:59;29') + 1, DF)).toBe('00:01:00;02')
  })
  it('drops nothing at minutes 10, 20, ...', () => {
    for (const minute of ['10', '20', '30', '40', '50'])
      expect(formatTimecode(frameOf(`00:${minute}:00;00`), DF)).toBe(`00:${minute}:00;00`)
    expect(formatTimecode(frameOf('00:09:59;29') + 1, DF)).toBe('00:10:00;00')
  })
  it('counts 17,982 frames in ten minutes, 107,892 in an hour, 2,589,408 in a day', () => {
    expect(frameOf('00:10:00;00')).toBe(17_982)
    expect(framesPerHour(DF)).toBe(107_892)
    expect(framesPerDay(DF)).toBe(2_589_408)
  })
  it('refuses a dropped number and says where the minute begins', () => {
    expect(parseTimecode('00:01:00;01', DF)).toEqual({
      ok: false,
      code: 'TC_DROPPED',
      message:
        '00:01:00:01 does not exist at 29.97 fps drop: that number is dropped; the minute begins at 00:01:00;02.',
    })
    expect(parseTimecode('00:01:00;03', FRAME_RATES['59.94d']).ok).toBe(false)
    expect(parseTimecode('00:01:00;04', FRAME_RATES['59.94d']).ok).toBe(true)
  })
})

describe('against smpte-timecode from the registry', () => {
  // The library knows these rates; each frame of a day is checked in both directions at 29.97 DF, a sample elsewhere.
  const cases = [
    ['23.976', 23.976, false, 7],
    ['24', 24, false, 7],
    ['25', 25, false, 7],
    ['29.97', 29.97, false, 7],
    ['29.97d', 29.97, true, 1],
    ['30', 30, false, 7],
    ['50', 50, false, 13],
    ['59.94d', 59.94, true, 3],
    ['60', 60, false, 13],
  ] as const
  it.each(cases)('agrees at %s over 24 hours', (id, number, drop, stride) => {
    const rate = FRAME_RATES[id]
    const wrong: string[] = []
    for (let frame = 0; frame < framesPerDay(rate) && wrong.length < 3; frame += stride) {
      const ours = formatTimecode(frame, rate)
      const theirs = new SmpteTimecode(frame, number, drop).toString()
      if (ours.replace(';', ':') !== theirs.replace(';', ':') || frameOf(ours, rate) !== frame)
        wrong.push(`${frame}: ${ours}, theirs ${theirs}`)
    }
    expect(wrong).toEqual([])
  })
})

describe('rates', () => {
  it.each(FRAME_RATE_IDS)('%s goes out and back', (id) => {
    const rate = FRAME_RATES[id]
    for (const frame of [0, 1, 1799, 1800, 86_399, framesPerDay(rate) - 1])
      expect(frameOf(formatTimecode(frame, rate), rate)).toBe(frame)
  })
  it('reads a movie’s rational, also a rounded one', () => {
    expect(rateFromRational(24000, 1001)?.id).toBe('23.976')
    expect(rateFromRational(2997, 100)?.id).toBe('29.97')
    expect(rateFromRational(12, 1)).toBeNull()
  })
})
