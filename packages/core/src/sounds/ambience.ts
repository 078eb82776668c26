import type { Preparation } from '../contract/sounds.js'
import { cuesInOrder, rateOf, reelOf, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { frameToSample, samplesIn } from '../time/convert.js'
import { frames } from '../time/units.js'

/** An ambience fades by so much at its ends. */
const FADE = samplesIn(0.5)

/** Where the next cue of the same category begins, or the reel ends. */
const nextOf = (doc: Pick<ReelDocument, 'reel' | 'cue'>, cue: Cue): number =>
  cuesInOrder(doc).find((other) => other.category === cue.category && other.in > cue.in)?.in ??
  reelOf(doc).length

/**
 * A preparation as a cue takes it: on a cue of backgrounds what it leaves open is filled in, so that the sound begins where the
 * cue does, lasts as long, and fades at its ends; a loud drop in the rain is not what is to meet the picture. What was given a
 * sync point keeps it, and its attack. Where the cue is no more than a press, it lasts until the next cue of backgrounds.
 * On any other cue, and on none, it stays as it is.
 *
 * @param sound - `length` in samples at 48 kHz
 */
export function preparedFor(
  doc: Pick<ReelDocument, 'reel' | 'cue'>,
  cue: Cue | null,
  sound: { readonly length: number },
  preparation: Preparation,
): Preparation {
  if (cue?.category !== 'BG') return preparation
  const { speed, reverse } = preparation
  const sampleOf = (frame: number): number => frameToSample(frames(frame), rateOf(doc))
  const begin = sampleOf(cue.in)
  const end = cue.out - cue.in <= 1 ? sampleOf(nextOf(doc, cue)) : sampleOf(cue.out)
  const first = Math.min(preparation.in ?? 0, sound.length - 1)
  const last = preparation.out ?? Math.min(sound.length, first + Math.round((end - begin) * speed))
  const ends = { ...preparation, in: first, out: last }
  if (preparation.sync !== null) return ends
  const fade = Math.max(0, Math.min(FADE, Math.floor((last - first) / speed / 2)))
  // Played backwards it begins with its out. The cue's sync frame is nearly always its in.
  const late = Math.round((sampleOf(cue.sync) - begin) * speed)
  return {
    ...ends,
    sync: reverse ? last - late : first + late,
    fadeIn: preparation.fadeIn ?? fade,
    fadeOut: preparation.fadeOut ?? fade,
  }
}
