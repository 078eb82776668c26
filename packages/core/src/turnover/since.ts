import { treatmentWords } from '../treatment/clipTreatment.js'
import { channelWords } from '../sounds/channels.js'
import { CATEGORIES, CATEGORY_NAMES } from '../reel/categories.js'
import { stemPlace, WHOLE } from '../reel/inserts.js'
import { insertsOn, rateOf, rideOf, type ReelDocument } from '../reel/document.js'
import type { Clip, Cue, Track } from '../reel/records.js'
import { decibelText } from '../signal/levels.js'
import type { Span } from '../spotting/spans.js'
import { formatLength } from '../time/timecode.js'
import { nearestFrame } from '../time/convert.js'
import { spanOfClip } from './checks/finding.js'

/** What has happened to something since a turnover. */
export type SinceKind = 'come' | 'gone' | 'moved' | 'swapped' | 'changed'

/** One thing that has changed since a turnover. */
export interface SinceLine {
  readonly kind: SinceKind
  readonly what: 'sound' | 'cue' | 'track' | 'treatment'
  /** Frames of the reel where it stands now, or stood; null where it is of the reel as a whole. */
  readonly at: Span | null
  /** Its record, where there is one. */
  readonly id: string
  /** What it is, and what has become of it. */
  readonly name: string
  readonly text: string
}

/**
 * What has moved, come, gone, been swapped or been changed between two stands of a reel, as far as it is heard or printed:
 * first what is of the reel as a whole, then by time.
 */
export function changesSince(then: ReelDocument, now: ReelDocument): SinceLine[] {
  const lines = [
    ...trackLines(then, now),
    ...treatmentLines(then, now),
    ...clipLines(then, now),
    ...cueLines(then, now),
  ]
  return lines.sort((a, b) => (a.at?.from ?? -1) - (b.at?.from ?? -1))
}

/** Pairs of a record as it was and as it is; one of the two may be missing. */
function pairs<T>(
  then: ReadonlyMap<string, T>,
  now: ReadonlyMap<string, T>,
): [T | undefined, T | undefined][] {
  const ids = new Set([...then.keys(), ...now.keys()])
  return [...ids].map((id) => [then.get(id), now.get(id)])
}

function clipLines(then: ReelDocument, now: ReelDocument): SinceLine[] {
  return pairs(then.clip, now.clip).flatMap(([before, after]): SinceLine[] => {
    if (before === after) return []
    const shown = after ?? before
    if (!shown) return []
    const at = spanOfClip(after ? now : then, shown)
    const line = (kind: SinceKind, text: string): SinceLine[] => [
      { kind, text, what: 'sound', at, id: shown.id, name: shown.name },
    ]
    if (!before) return line('come', `new, on ${now.track.get(shown.trackId)?.name ?? ''}`)
    if (!after) return line('gone', `taken away, was on ${then.track.get(shown.trackId)?.name ?? ''}`)
    if (before.soundId !== after.soundId) return line('swapped', `in the place of ${before.name}`)
    const changes = [...movesOf(now, before, after), ...shapesOf(now, before, after)]
    if (changes.length === 0) return []
    return line(
      before.start === after.start && before.trackId === after.trackId ? 'changed' : 'moved',
      changes.join(', '),
    )
  })
}

/** A length in frames with its sign. */
const signed = (now: ReelDocument, samples: number): string => {
  const frames = nearestFrame(Math.abs(samples), rateOf(now))
  const length = frames === 0 ? `${Math.abs(samples)} samples` : formatLength(frames, rateOf(now))
  return `${samples < 0 ? '−' : '+'}${length}`
}

function movesOf(now: ReelDocument, before: Clip, after: Clip): string[] {
  const moved = after.start - after.offset - (before.start - before.offset)
  const [head, tail] = [
    after.offset - before.offset,
    after.offset + after.length - (before.offset + before.length),
  ]
  return [
    ...(before.trackId === after.trackId ? [] : [`to ${now.track.get(after.trackId)?.name ?? ''}`]),
    ...(moved === 0 ? [] : [`moved by ${signed(now, moved)}`]),
    ...(head === 0 ? [] : [`begins ${signed(now, head)}`]),
    ...(tail === 0 ? [] : [`ends ${signed(now, tail)}`]),
  ]
}

function shapesOf(now: ReelDocument, before: Clip, after: Clip): string[] {
  const isSame = (...fields: (keyof Clip)[]): boolean =>
    fields.every((field) => before[field] === after[field])
  return [
    ...(isSame('gain') ? [] : [`level ${decibelText(before.gain)} to ${decibelText(after.gain)}`]),
    ...(isSame('fadeIn', 'fadeInShape') ? [] : [`fade in ${signed(now, after.fadeIn).slice(1)}`]),
    ...(isSame('fadeOut', 'fadeOutShape') ? [] : [`fade out ${signed(now, after.fadeOut).slice(1)}`]),
    ...(isSame('speed', 'keepPitch') ? [] : [`speed ${before.speed} to ${after.speed}`]),
    ...(isSame('reverse') ? [] : [after.reverse ? 'backwards' : 'forwards again']),
    ...(isSame('sides') ? [] : [`sides ${after.sides}`]),
    ...(isSame('channels') ? [] : [channelWords(after.channels)]),
    ...(isSame('runUp', 'runDown') ? [] : ['runs up or down otherwise']),
    ...(isSame('passSpeed', 'passDistance') ? [] : ['goes past otherwise']),
    ...(isSame('treatment')
      ? []
      : [treatmentWords(after) ? `treated: ${treatmentWords(after)}` : 'not treated any more']),
    ...(isSame('mute') ? [] : [after.mute ? 'muted' : 'heard again']),
  ]
}

function cueLines(then: ReelDocument, now: ReelDocument): SinceLine[] {
  return pairs(then.cue, now.cue).flatMap(([before, after]): SinceLine[] => {
    const shown = after ?? before
    if (!shown || before === after) return []
    const name = `${shown.category} ${String(shown.number).padStart(3, '0')} ${shown.words}`
    const at = { from: shown.in, to: shown.out }
    const line = (kind: SinceKind, text: string): SinceLine[] => [
      { kind, text, what: 'cue', at, id: shown.id, name },
    ]
    if (!before) return line('come', 'new')
    if (!after) return line('gone', 'taken away')
    const changes = changesOfCue(now, before, after)
    const moved = before.in !== after.in || before.out !== after.out || before.sync !== after.sync
    return changes.length === 0 ? [] : line(moved ? 'moved' : 'changed', changes.join(', '))
  })
}

function changesOfCue(now: ReelDocument, before: Cue, after: Cue): string[] {
  const by = (frames: number): string =>
    `${frames < 0 ? '−' : '+'}${formatLength(Math.abs(frames), rateOf(now))}`
  return [
    ...(before.in === after.in ? [] : [`begins ${by(after.in - before.in)}`]),
    ...(before.out === after.out ? [] : [`ends ${by(after.out - before.out)}`]),
    ...(before.sync === after.sync ? [] : [`sync ${by(after.sync - before.sync)}`]),
    ...(before.words === after.words ? [] : [`was “${before.words}”`]),
    ...(before.notes === after.notes ? [] : ['other notes']),
    ...(before.state === after.state
      ? []
      : [after.state === 'omitted' ? `omitted: ${after.omitReason}` : after.state]),
    ...(before.category === after.category && before.number === after.number
      ? []
      : [`was ${before.category} ${String(before.number).padStart(3, '0')}`]),
  ]
}

function trackLines(then: ReelDocument, now: ReelDocument): SinceLine[] {
  return pairs(then.track, now.track).flatMap(([before, after]): SinceLine[] => {
    const shown = after ?? before
    if (!shown) return []
    const line = (kind: SinceKind, text: string): SinceLine[] => [
      { kind, text, what: 'track', at: null, id: shown.id, name: shown.name },
    ]
    if (!before) return line('come', `new track, ${CATEGORY_NAMES[shown.category]}`)
    if (!after) return line('gone', 'track taken away')
    const changes = changesOfTrack(then, now, before, after)
    return changes.length === 0 ? [] : line('changed', changes.join(', '))
  })
}

function changesOfTrack(then: ReelDocument, now: ReelDocument, before: Track, after: Track): string[] {
  const ridden = (what: 'level' | 'pan'): boolean => {
    const [old, fresh] = [rideOf(then, before.id, what), rideOf(now, after.id, what)]
    return (
      old.length !== fresh.length ||
      old.some((point, index) => point !== fresh[index] && !samePoint(point, fresh[index]))
    )
  }
  return [
    ...(before.name === after.name ? [] : [`was called ${before.name}`]),
    ...(before.category === after.category ? [] : [`was ${CATEGORY_NAMES[before.category]}`]),
    ...(before.level === after.level
      ? []
      : [`level ${decibelText(before.level)} to ${decibelText(after.level)}`]),
    ...(before.pan === after.pan ? [] : ['other place']),
    ...(before.width === after.width ? [] : [after.width]),
    ...(before.mute === after.mute ? [] : [after.mute ? 'muted' : 'heard again']),
    ...(before.solo === after.solo ? [] : [after.solo ? 'soloed' : 'solo ended']),
    ...(ridden('level') ? ['other ride of the level'] : []),
    ...(ridden('pan') ? ['other ride of the place'] : []),
  ]
}

const samePoint = (a: { at: number; value: number; bend: string }, b: typeof a | undefined): boolean =>
  a.at === b?.at && a.value === b.value && a.bend === b.bend

function treatmentLines(then: ReelDocument, now: ReelDocument): SinceLine[] {
  const places = new Set([...then.insert.values(), ...now.insert.values()].map(({ on }) => on))
  return [...places].flatMap((on): SinceLine[] => {
    const told = (doc: ReelDocument): string =>
      JSON.stringify(insertsOn(doc, on).map((insert) => ({ ...insert, order: '' })))
    if (told(then) === told(now)) return []
    const name = now.track.get(on)?.name ?? then.track.get(on)?.name ?? partName(on)
    return [{ kind: 'changed', what: 'treatment', at: null, id: on, name, text: 'other treatment' }]
  })
}

/** The name of a part of the mix that is no track. */
function partName(place: string): string {
  const category = CATEGORIES.find((one) => stemPlace(one) === place)
  return place === WHOLE ? 'The mix' : category ? `Stem ${CATEGORY_NAMES[category]}` : place
}
