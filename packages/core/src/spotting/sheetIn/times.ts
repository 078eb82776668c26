import { ok, refuse, type Result } from '../../errors.js'
import type { FrameRate } from '../../time/rates.js'
import { parseTimecode, partsToFrame } from '../../time/timecode.js'

/** How a sheet writes its times. Seconds, frames and feet count from the reel's first frame. */
export type TimesAs = 'timecode' | 'fractions' | 'seconds' | 'frames' | 'feet'

/** How each way of writing a time is called, with an example of ten seconds and a half at 24 frames. */
export const TIMES_AS: Readonly<Record<TimesAs, string>> = {
  timecode: 'timecode, 01:00:10:12',
  fractions: 'clock with fractions, 01:00:10.50',
  seconds: 'seconds, 10.5',
  frames: 'frames, 252',
  feet: '35 mm feet+frames, 15+12',
}

/** Frames of 35 mm film in a foot (four perforations a frame; common practice). */
const FRAMES_PER_FOOT = 16

const TIMECODE = /^\d{1,2}[:.;, ]\d{1,2}[:.;, ]\d{1,2}[:.;, ]\d{1,2}$/
const PACKED = /^(\d{2})(\d{2})[ .]?(\d{2})(\d{2})$/
const CLOCK = /^(\d{1,2}):(\d{1,2}):(\d{1,2})(?:[.,](\d{1,3}))?$/
const FEET = /^(\d{1,6})\+(\d{1,2})$/
const NUMBER = /^\d+(?:[.,]\d+)?$/

/** Says whether a cell could be a time in one of the ways that can't be anything else. */
export const looksLikeTime = (cell: string): boolean =>
  TIMECODE.test(cell) || PACKED.test(cell) || CLOCK.test(cell) || FEET.test(cell)

/** Whether a time like `01:00:10.12` can be read both ways, as frames and as a fraction of a second. */
const isEither = (cell: string): boolean => /^\d{1,2}:\d{1,2}:\d{1,2}[.,]\d{2}$/.test(cell)

/** Guesses how times are written, and whether that has to be asked: `01:00:10.12` is twelve frames or twelve hundredths. */
export function guessTimes(cells: readonly string[], rate: FrameRate): { as: TimesAs; ask: boolean } {
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== '')
  const most = (is: (cell: string) => boolean): boolean => filled.filter(is).length * 2 > filled.length
  if (most((cell) => FEET.test(cell))) return { as: 'feet', ask: false }
  if (most((cell) => CLOCK.test(cell) && /[.,]\d{3}$/.test(cell))) return { as: 'fractions', ask: false }
  if (most(isEither)) {
    // A fraction that no frame has decides it.
    const isFraction = filled.some((cell) => isEither(cell) && Number(cell.slice(-2)) >= rate.nominal)
    return { as: isFraction ? 'fractions' : 'timecode', ask: !isFraction }
  }
  if (most((cell) => NUMBER.test(cell) && !PACKED.test(cell)))
    return { as: filled.some((cell) => /[.,]/.test(cell)) ? 'seconds' : 'frames', ask: true }
  return { as: 'timecode', ask: false }
}

/**
 * Reads a time of a sheet.
 *
 * @param firstFrame - The frame, since midnight at the sheet's rate, that seconds, frames and feet count from.
 * @returns Frames since midnight at the sheet's rate.
 */
export function readTime(text: string, as: TimesAs, rate: FrameRate, firstFrame: number): Result<number> {
  const counted = as === 'timecode' || as === 'fractions' ? null : countOf(text, as, rate)
  if (counted !== null) return ok(firstFrame + counted)
  const clock = CLOCK.exec(text)
  if (clock && (clock[4] === undefined || as === 'fractions' || clock[4].length === 3)) {
    const [hours, minutes, seconds] = clock.slice(1, 4).map(Number) as [number, number, number]
    const whole = partsToFrame({ hours, minutes, seconds, frames: 0 }, { ...rate, dropped: 0 })
    if (!whole.ok) return refuse('CORE_BAD_CELL', 'Time', whole.message)
    return ok(clockFrame(whole.frame / rate.nominal + Number(`0.${clock[4] ?? 0}`), rate))
  }
  const packed = PACKED.exec(text)
  const written = packed ? packed.slice(1).join(':') : text.replace(/[.;, ]/g, ':')
  const drop = written.replace(/:(\d{1,2})$/, text.includes(';') ? ';$1' : ':$1')
  const read = parseTimecode(drop, rate)
  if (read.ok) return ok(read.frame)
  return refuse('CORE_BAD_CELL', 'Time', read.message.replace(drop, text))
}

/** Frame of a time of day; drop-frame numbers are those of the clock. */
const clockFrame = (seconds: number, rate: FrameRate): number => {
  const whole = Math.floor(seconds)
  const part = Math.round((seconds - whole) * rate.nominal)
  const minutes = Math.floor(whole / 60)
  return whole * rate.nominal + part - rate.dropped * (minutes - Math.floor(minutes / 10))
}

/**
 * Reads a length: like a time that counts from nought; with two parts it is seconds and frames, as Yodel writes it.
 * A bare number is seconds, or frames or feet where the times are.
 *
 * @returns Frames at the sheet's rate, at least 1.
 */
export function readLength(text: string, as: TimesAs, rate: FrameRate): Result<number> {
  const unit = /^(\d+(?:[.,]\d+)?)\s*(s|sec|sek|seconds|"|f|fr|frames|bilder)?\.?$/i.exec(text)
  const wrong = refuse('CORE_BAD_CELL', 'Length', `"${text}" is no length; write it as 0:02:12, 2:12 or 2.5`)
  if (unit) {
    const [, number = '', called = ''] = unit
    const isFrames = /^(f|b)/i.test(called) || (called === '' && as === 'frames')
    const value = Number(number.replace(',', '.'))
    return atLeastOne(isFrames ? value : (value * rate.num) / rate.den)
  }
  const feet = FEET.exec(text)
  if (feet) return atLeastOne(Number(feet[1]) * FRAMES_PER_FOOT + Number(feet[2]))
  const clock = /^(\d{2}):(\d{2}):(\d{2})(?:[.,](\d{1,3}))?$/.exec(text)
  if (clock) {
    const [hours, minutes, seconds] = clock.slice(1, 4).map(Number) as [number, number, number]
    const isFrames = clock[4]?.length === 2 && as !== 'fractions'
    const part = isFrames ? Number(clock[4]) / rate.nominal : Number(`0.${clock[4] ?? 0}`)
    return atLeastOne((hours * 3600 + minutes * 60 + seconds + part) * rate.nominal)
  }
  const parts = text.split(/[:.;, ]/)
  if (parts.length < 2 || parts.length > 4 || !parts.every((part) => /^\d{1,3}$/.test(part))) return wrong
  const [count = 0, seconds = 0, minutes = 0, hours = 0] = parts.map(Number).reverse()
  if (count >= rate.nominal || minutes > 59 || (parts.length > 2 && seconds > 59)) return wrong
  return atLeastOne((hours * 3600 + minutes * 60 + seconds) * rate.nominal + count)
}

const atLeastOne = (frames: number): Result<number> => ok(Math.max(1, Math.round(frames)))

function countOf(
  text: string,
  as: Exclude<TimesAs, 'timecode' | 'fractions'>,
  rate: FrameRate,
): number | null {
  const feet = FEET.exec(text)
  if (feet)
    return Number(feet[2]) < FRAMES_PER_FOOT ? Number(feet[1]) * FRAMES_PER_FOOT + Number(feet[2]) : null
  if (as === 'feet' || !NUMBER.test(text)) return null
  const number = Number(text.replace(',', '.'))
  if (as === 'seconds') return Math.round((number * rate.num) / rate.den)
  return Number.isInteger(number) ? number : null
}
