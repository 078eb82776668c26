import { ok, refuse, type Result } from '../errors.js'
import { changeTo, isEmpty, type Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'

/**
 * Makes a reel what it was at an earlier time, as a new edit that can itself be undone.
 *
 * @param args.then - The document of that time.
 * @param args.what - What was done last then, for the label.
 */
export function goBack(doc: ReelDocument, args: { then: ReelDocument; what: string }): Result<Change> {
  const change = changeTo(doc, args.then, `Back to “${args.what}”`)
  return isEmpty(change)
    ? refuse('CORE_NOTHING_DONE', 'go back', 'the reel already is as it was then')
    : ok(change)
}

/** Takes the balance of an earlier time over, as a new edit: see {@link withBalance}. */
export function recallBalance(doc: ReelDocument, args: { then: ReelDocument; name: string }): Result<Change> {
  const change = changeTo(doc, withBalance(doc, args.then), `Balance of “${args.name}”`)
  return isEmpty(change) ? refuse('CORE_NOTHING_DONE', 'balance', 'it already is as it was then') : ok(change)
}

/**
 * A document with the balance of another time: level, pan, mute, solo and rides of the tracks that there were, gain and mute of the sounds that there were
 * and are not locked, and the treatment. What has come since stays as it is.
 */
export function withBalance(doc: ReelDocument, then: ReelDocument): ReelDocument {
  const old = (place: string): boolean => !doc.track.has(place) || then.track.has(place)
  const there = (place: string): boolean => !then.track.has(place) || doc.track.has(place)
  const table = <T extends { readonly id: string }>(records: Iterable<T>): Map<string, T> =>
    new Map([...records].map((record) => [record.id, record]))
  return {
    ...doc,
    track: table(
      [...doc.track.values()].map((track) => {
        const { level, pan, mute, solo } = then.track.get(track.id) ?? track
        return { ...track, level, pan, mute, solo }
      }),
    ),
    clip: table(
      [...doc.clip.values()].map((clip) => {
        const { gain, mute } = (clip.locked ? null : then.clip.get(clip.id)) ?? clip
        return { ...clip, gain, mute }
      }),
    ),
    ride: table([
      ...[...doc.ride.values()].filter(({ trackId }) => !old(trackId)),
      ...[...then.ride.values()].filter(({ trackId }) => there(trackId)),
    ]),
    insert: table([
      ...[...doc.insert.values()].filter(({ on }) => !old(on)),
      ...[...then.insert.values()].filter(({ on }) => there(on)),
    ]),
  }
}
