import type { FrameRate } from './rates.js'
import { frameToParts, partsToFrame, type TimecodeResult } from './timecode.js'
import { frames, type Frames } from './units.js'

/**
 * Reads a position as editors type it, into frames since 00:00:00:00.
 *
 * - Marks may be `:` `;` `.` `,` or a space, and fields may be short: `1:00:10:5`, `10.05`.
 * - Fields fill from the frames up; what is left out is taken from `here` (`10.05` at 01:02:33:00 is 01:02:10:05).
 * - Digits without marks are read from the right in pairs: `10005` is `1:00:05` over the present hour.
 * - One or two digits without marks are a frame number within the present second.
 * - A leading `+` or `-` moves from `here` by frames (`+12`) or by a length (`-1:00`, one second back).
 *   Lengths count frames at the nominal rate, as timecode displays do.
 *
 * @param here - Present position, frames since 00:00:00:00.
 * @returns The position, or the reason it is refused (syntax, range, a dropped number, before 00:00:00:00).
 */
export function readEntry(text: string, here: Frames, rate: FrameRate): TimecodeResult {
  const trimmed = text.trim()
  const match = /^([+-]?)\s*(\d{1,8}(?:[:;.,\s]+\d{1,8})*)$/.exec(trimmed)
  if (!match) {
    return {
      ok: false,
      code: 'TC_SYNTAX',
      message: `"${trimmed}" is not a time; type for example 1:00:10:05, 10.05, +12 or -1:00.`,
    }
  }
  const sign = match[1] ?? ''
  const fields = splitFields(match[2] ?? '')
  if (fields.length > 4)
    return { ok: false, code: 'TC_SYNTAX', message: `"${trimmed}" has more than four fields.` }
  return sign === ''
    ? absolute(fields, here, rate)
    : relative(fields, sign === '-' ? -1 : 1, here, rate, trimmed)
}

function splitFields(digits: string): number[] {
  const marked = digits.split(/[:;.,\s]+/)
  if (marked.length > 1) return marked.map(Number)
  const pairs: number[] = []
  for (let end = digits.length; end > 0; end -= 2)
    pairs.unshift(Number(digits.slice(Math.max(0, end - 2), end)))
  return pairs
}

function absolute(fields: readonly number[], here: Frames, rate: FrameRate): TimecodeResult {
  const now = frameToParts(here, rate)
  const present = [now.hours, now.minutes, now.seconds, now.frames]
  const filled = [...present.slice(0, 4 - fields.length), ...fields] as [number, number, number, number]
  return partsToFrame({ hours: filled[0], minutes: filled[1], seconds: filled[2], frames: filled[3] }, rate)
}

function relative(
  fields: readonly number[],
  sign: 1 | -1,
  here: Frames,
  rate: FrameRate,
  text: string,
): TimecodeResult {
  // A lone number is a count of frames and may exceed a second, so digits typed without marks are rejoined.
  const lone = /^[+-]?\s*(\d+)$/.exec(text)
  const [hours, minutes, seconds, frame] = [...Array<number>(4 - fields.length).fill(0), ...fields] as [
    number,
    number,
    number,
    number,
  ]
  const length = lone ? Number(lone[1]) : ((hours * 60 + minutes) * 60 + seconds) * rate.nominal + frame
  const target = here + sign * length
  if (target < 0) return { ok: false, code: 'TC_RANGE', message: `${text} from here is before 00:00:00:00.` }
  return { ok: true, frame: frames(target) }
}
