import { frames, samples, type Samples } from '../time/units.js'
import type { Clip, Cue } from './records.js'

/** The fields of a clip that are samples. */
export type ClipTimes = Pick<Clip, 'start' | 'length' | 'offset' | 'sync' | 'recorded' | 'fadeIn' | 'fadeOut'>

/** Computed times, not yet marked as samples. */
export type PlainTimes = { readonly [Field in keyof ClipTimes]?: number }

/** A clip with other times, marked as samples. @throws RangeError when one of them is not a whole number */
export function withTimes(clip: Clip, times: PlainTimes): Clip {
  return { ...clip, ...marked(times) }
}

/** Times marked as samples. @throws RangeError when one of them is not a whole number */
export function marked<Times extends PlainTimes>(times: Times): { [Field in keyof Times]: Samples } {
  return Object.fromEntries(Object.entries(times).map(([field, value]) => [field, samples(value)])) as {
    [Field in keyof Times]: Samples
  }
}

/** Fields of a cue to be set, with computed frames not yet marked as such. */
export type CueFields = Partial<Omit<Cue, 'kind' | 'id' | 'in' | 'out' | 'sync'>> & {
  readonly in?: number
  readonly out?: number
  readonly sync?: number
}

/** A cue with other fields. @throws RangeError when a frame is not a whole number */
export function withFields(
  cue: Cue,
  { in: from = cue.in, out = cue.out, sync = cue.sync, ...rest }: CueFields,
): Cue {
  return { ...cue, ...rest, in: frames(from), out: frames(out), sync: frames(sync) }
}
