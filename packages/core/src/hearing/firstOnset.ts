import { OUTLINE_STEP } from './outline.js'

const STRONG_DB = -9
/** An attack begins where it stood at this part of its height. */
const RISE = 0.12
/** How much of what lies before a rise is compared with it, and what of that may belong to the rise itself, in steps. */
const BEFORE = 60
const OWN = 2

/**
 * Finds the first strong onset of a recording at 48 kHz: the default sync point.
 * The outline is followed to the first rise within 9 dB of the loudest step that stands 12 dB above the 60 ms before it;
 * from there back to where the attack begins. A recording without such a rise (an ambience) has its sync point at 0.
 *
 * @param outline - As {@link OutlineCollector} gives it.
 * @returns The sample, to the millisecond before the attack's rise.
 */
export function firstOnset(outline: Float32Array): number {
  const strong = outline.reduce((most, value) => Math.max(most, value), 0) * 10 ** (STRONG_DB / 20)
  if (strong === 0) return 0
  for (let i = 0; i < outline.length; i++) {
    const value = outline[i] as number
    if (value < strong) continue
    const before = outline.subarray(Math.max(0, i - BEFORE), Math.max(0, i - OWN))
    const floor = before.length === 0 ? 0 : before.reduce((sum, step) => sum + step, 0) / before.length
    if (floor * 4 > value && i > OWN) continue
    return attackBefore(outline, i) * OUTLINE_STEP
  }
  return 0
}

function attackBefore(outline: Float32Array, index: number): number {
  // The attack's own peak may lie a few steps on.
  const top = outline.subarray(index, index + 8).reduce((most, value) => Math.max(most, value), 0)
  let at = index
  while (at > 0 && index - at < 30 && (outline[at - 1] as number) > top * RISE) at--
  return at
}
