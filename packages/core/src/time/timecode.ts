import type { FrameRate } from './rates.js'
import { frames, type Frames } from './units.js'

/** Hours, minutes, seconds and frame number as read off a timecode display. */
export interface TimecodeParts {
  readonly hours: number
  readonly minutes: number
  readonly seconds: number
  readonly frames: number
}

/** Why a timecode is refused, with a sentence for the editor. */
export interface TimecodeRefusal {
  readonly ok: false
  readonly code: 'TC_SYNTAX' | 'TC_RANGE' | 'TC_DROPPED'
  readonly message: string
}

/** A frame number, or the reason why there is none. */
export type TimecodeResult = { readonly ok: true; readonly frame: Frames } | TimecodeRefusal

/** Frames in 24 hours of timecode at a rate (2,589,408 at 29.97 drop). */
export function framesPerDay(rate: FrameRate): number {
  return 24 * framesPerHour(rate)
}

/** Frames in one hour of timecode at a rate (107,892 at 29.97 drop). */
export function framesPerHour(rate: FrameRate): number {
  return 3600 * rate.nominal - 54 * rate.dropped
}

const two = (value: number): string => String(value).padStart(2, '0')

/**
 * Splits a frame count since 00:00:00:00 into timecode parts, leaving out dropped numbers.
 * Wraps at 24 hours in both directions. Counting after SMPTE ST 12-1.
 */
export function frameToParts(frame: number, rate: FrameRate): TimecodeParts {
  const day = framesPerDay(rate)
  let count = ((frame % day) + day) % day
  if (rate.dropped > 0) {
    const perMinute = 60 * rate.nominal - rate.dropped
    const perTen = 600 * rate.nominal - 9 * rate.dropped
    const tens = Math.floor(count / perTen)
    const rest = count % perTen
    // The first minute of ten keeps all its numbers; each of the other nine leaves out `dropped`.
    const minutesPast = rest < 60 * rate.nominal ? 0 : 1 + Math.floor((rest - 60 * rate.nominal) / perMinute)
    count += rate.dropped * (9 * tens + minutesPast)
  }
  const totalSeconds = Math.floor(count / rate.nominal)
  return {
    hours: Math.floor(totalSeconds / 3600),
    minutes: Math.floor(totalSeconds / 60) % 60,
    seconds: totalSeconds % 60,
    frames: count % rate.nominal,
  }
}

/**
 * Writes a frame count since 00:00:00:00 as `HH:MM:SS:FF`; the last mark is `;` for drop-frame numbering.
 */
export function formatTimecode(frame: number, rate: FrameRate): string {
  const part = frameToParts(frame, rate)
  const mark = rate.dropped > 0 ? ';' : ':'
  return `${two(part.hours)}:${two(part.minutes)}:${two(part.seconds)}${mark}${two(part.frames)}`
}

/** Writes a length in frames as `M:SS:FF` without dropped numbers, e.g. `1:13` for 37 frames at 24 fps. */
export function formatLength(length: number, rate: FrameRate): string {
  const sign = length < 0 ? '-' : ''
  const count = Math.abs(length)
  const ff = two(count % rate.nominal)
  const total = Math.floor(count / rate.nominal)
  const minutes = Math.floor(total / 60)
  return minutes > 0 ? `${sign}${minutes}:${two(total % 60)}:${ff}` : `${sign}${total}:${ff}`
}

/**
 * The frame count since 00:00:00:00 of timecode parts, or the reason why such a frame does not exist.
 */
export function partsToFrame(part: TimecodeParts, rate: FrameRate): TimecodeResult {
  const text = `${two(part.hours)}:${two(part.minutes)}:${two(part.seconds)}:${two(part.frames)}`
  const fields: [string, number, number][] = [
    ['hours', part.hours, 24],
    ['minutes', part.minutes, 60],
    ['seconds', part.seconds, 60],
    ['frames', part.frames, rate.nominal],
  ]
  for (const [name, value, limit] of fields) {
    if (!Number.isInteger(value) || value < 0 || value >= limit) {
      return {
        ok: false,
        code: 'TC_RANGE',
        message: `${text}: ${name} run from 0 to ${limit - 1} at ${rate.label}.`,
      }
    }
  }
  if (rate.dropped > part.frames && part.seconds === 0 && part.minutes % 10 !== 0) {
    const next = `${two(part.hours)}:${two(part.minutes)}:00;${two(rate.dropped)}`
    return {
      ok: false,
      code: 'TC_DROPPED',
      message: `${text} does not exist at ${rate.label}: that number is dropped; the minute begins at ${next}.`,
    }
  }
  const minutes = part.hours * 60 + part.minutes
  const count = (minutes * 60 + part.seconds) * rate.nominal + part.frames
  return { ok: true, frame: frames(count - rate.dropped * (minutes - Math.floor(minutes / 10))) }
}

/** Reads a full `HH:MM:SS:FF` (or `;`) timecode into a frame count since 00:00:00:00. */
export function parseTimecode(text: string, rate: FrameRate): TimecodeResult {
  const match = /^(\d{1,2}):(\d{1,2}):(\d{1,2})[:;](\d{1,2})$/.exec(text.trim())
  if (!match)
    return { ok: false, code: 'TC_SYNTAX', message: `"${text}" is not a timecode; write it as 01:00:10:05.` }
  const [hours, minutes, seconds, frame] = match.slice(1).map(Number) as [number, number, number, number]
  return partsToFrame({ hours, minutes, seconds, frames: frame }, rate)
}

/** The frame that has the same timecode at another rate; where there is none, the one of the same moment. */
export function sameTimecode(frame: number, from: FrameRate, to: FrameRate): number {
  if (from.id === to.id) return frame
  const same = parseTimecode(formatTimecode(frame, from), to)
  return same.ok ? same.frame : Math.round((frame * from.den * to.num) / (from.num * to.den))
}
