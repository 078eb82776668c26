import { formatTimecode, type Pacing } from '@yodel/core'
import type { MovieFacts } from './probeMovie.js'

/** Says how much of a movie is there. */
export function shortOf(name: string, { frames, rate, missing }: MovieFacts): string {
  const minutes = (seconds: number): string =>
    `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`
  const held = (frames * rate.den) / rate.num
  return `${name} ends after ${minutes(held)} of the ${minutes(held + missing)} that it says it has: it was not copied whole.`
}

/** What is said of a movie that can be shown, but not quite as it is. */
export function remarksOn(name: string, { even, rate, repeated, leftOut }: Pacing): string[] {
  if (even) return []
  const frames = (count: number, what: string): string[] =>
    count === 0 ? [] : [`${count.toLocaleString('en')} ${count === 1 ? 'frame is' : 'frames are'} ${what}`]
  const how = [...frames(repeated, 'shown longer'), ...frames(leftOut, 'left out')].join(', ')
  return [`${name} does not run evenly at ${rate.label}: each moment is shown where it belongs; ${how}.`]
}

/** As many places are named; all are counted. */
const NAMED = 6

/** Where a movie has frames that can't be decoded. */
export function holesIn({ holes, rate }: Pacing): string {
  if (holes.length === 0) return ''
  const places = holes
    .slice(0, NAMED)
    .map(({ at, frames }) => `${formatTimecode(at, rate)} (${frames === 1 ? '1 frame' : `${frames} frames`})`)
  const more = holes.length > NAMED ? ` and ${holes.length - NAMED} more places` : ''
  return ` Nothing can be decoded at ${places.join(', ')}${more}, counted from its first frame; the frame before stands there.`
}
