import type { FoundSound, SoundEvent } from '../contract/sounds.js'
import type { Performed } from '../edits/keepTake.js'
import { rateOf, type ReelDocument } from '../reel/document.js'
import type { Cue } from '../reel/records.js'
import { preparedFor } from '../sounds/ambience.js'
import { prepareSound, UNPREPARED, type SoundToPlace } from '../sounds/prepared.js'
import { frameToSample, samplesIn } from '../time/convert.js'
import { frames } from '../time/units.js'

/** Words of what is done in steps. */
const STEPS = /\b(walks?|walking|steps?|footsteps?|runs?|running|cross(es)?|climbs?|paces?|comes along)\b/i
/** A cue's words speak of steps. */
export const isSteps = (words: string): boolean => STEPS.test(words)

/** Fewer onsets are no row of steps, and two closer than this (frames at 24) are one. */
const FEWEST_STEPS = 3
const APART_S = 0.2
/** What is longer than its cue by more than this is cut there. */
const OVERHANG = samplesIn(1.5)
const CUT_FADE = samplesIn(0.2)
/** A cue that was only pressed says nothing of how long it lasts: what is no ambience is heard for so long at most. */
const UNSAID = samplesIn(10)

/** The frames on which the repeated events of a cue are to be laid: onsets of the guide within it, where its words or its category say that it is steps. */
export function stepsOf(doc: Pick<ReelDocument, 'reel'>, cue: Cue, onsets: readonly number[]): number[] {
  if (!isSteps(cue.words)) return []
  const apart = APART_S * rateOf(doc).nominal
  const steps: number[] = []
  for (const onset of onsets)
    if (onset >= cue.in && onset < cue.out && onset - (steps.at(-1) ?? -Infinity) >= apart) steps.push(onset)
  return steps.length < FEWEST_STEPS ? [] : steps
}

const plain = (sound: Pick<FoundSound, 'id' | 'name' | 'length' | 'sync'>): SoundToPlace =>
  prepareSound(sound, UNPREPARED)

/** A part of a recording, its ends rounded into it. */
const partOf = (sound: FoundSound, [from, sync, to]: SoundEvent): SoundToPlace => ({
  ...plain(sound),
  ...{ from, sync: Math.max(from, Math.min(to - 1, sync)), to },
})

/**
 * What a choice for a cue would lay: an ambience as long as its cue, steps one by one, anything else with its sync point
 * on the cue's. Where a cue is no more than a press, an ambience lasts until the next one, and anything else as it does.
 *
 * @param steps - Frames of the reel, as of {@link stepsOf}
 * @param takes - Other takes of the same thing, itself among them; steps go round them
 * @param events - Of the chosen recording; steps are taken from a long one in their order
 */
export function layDraft(
  doc: Pick<ReelDocument, 'reel' | 'cue'>,
  cue: Cue,
  choice: FoundSound,
  {
    steps,
    takes,
    events,
  }: {
    readonly steps: readonly number[]
    readonly takes: readonly FoundSound[]
    readonly events: readonly SoundEvent[]
  },
): Performed[] {
  const rate = rateOf(doc)
  const { category } = cue
  const sampleOf = (frame: number): number => frameToSample(frames(frame), rate)
  if (steps.length > 0)
    return steps.map((frame, index) => {
      const event = events.length > 1 ? events[index % events.length] : undefined
      const take = takes[index % Math.max(1, takes.length)] ?? choice
      return { category, at: sampleOf(frame), sound: event ? partOf(choice, event) : plain(take) }
    })
  const sound = prepareSound(choice, preparedFor(doc, cue, choice, UNPREPARED))
  const at = sampleOf(cue.sync)
  if (category === 'BG') return [{ category, at, sound }]
  const isPress = cue.out - cue.in <= 1
  // What is heard of it after its sync point, up to a little beyond the cue.
  const most = sound.sync + (isPress ? UNSAID : Math.max(samplesIn(1), sampleOf(cue.out) + OVERHANG - at))
  return [{ category, at, sound: most < sound.recorded ? { ...sound, to: most, fadeOut: CUT_FADE } : sound }]
}
