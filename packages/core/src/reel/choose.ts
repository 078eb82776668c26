import { clipsByGroup, syncPlace, type ReelDocument } from './document.js'
import type { Clip } from './records.js'

/** Ids with those of all clips that stand in one group with one of them. @param apart - Groups whose clips are chosen one by one */
export function withGroups(
  doc: Pick<ReelDocument, 'clip'>,
  ids: readonly string[],
  apart: readonly string[] = [],
): string[] {
  const groups = new Set(ids.map((id) => doc.clip.get(id)?.group ?? ''))
  for (const group of ['', ...apart]) groups.delete(group)
  if (groups.size === 0) return [...ids]
  const joined = [...doc.clip.values()].filter((clip) => groups.has(clip.group))
  return [...new Set([...ids, ...joined.map((clip) => clip.id)])]
}

/** Ids with those of all layers of the stacks that one of them belongs to: a stack is one thing unless it is opened. @param opened - Stacks whose layers are chosen one by one */
export function withStacks(
  doc: Pick<ReelDocument, 'clip' | 'stack'>,
  ids: readonly string[],
  opened: readonly string[],
): string[] {
  const stacks = new Set(
    ids.map((id) => doc.clip.get(id)?.group ?? '').filter((id) => doc.stack.has(id) && !opened.includes(id)),
  )
  const layers = [...stacks].flatMap((id) => clipsByGroup(doc).get(id) ?? [])
  return [...new Set([...ids, ...layers.map(({ id }) => id)])]
}

/** In what clips may be alike: made of one recording, on tracks of one category, on one track. */
export type Alike = 'sound' | 'category' | 'track'

/** Ids of the clips that are like a clip in one respect, itself among them, in the order of time. */
export function clipsLike(doc: ReelDocument, clip: Clip, alike: Alike): string[] {
  const key = (one: Clip): string | null =>
    alike === 'sound'
      ? one.soundId
      : alike === 'track'
        ? one.trackId
        : (doc.track.get(one.trackId)?.category ?? null)
  const wanted = key(clip)
  return inTime([...doc.clip.values()].filter((one) => key(one) === wanted))
}

/** Ids of the clips whose sync point stands at or after a sample of the reel, in the order of time. */
export function clipsAfter(doc: ReelDocument, at: number): string[] {
  return inTime([...doc.clip.values()].filter((clip) => syncPlace(clip) >= at))
}

const inTime = (clips: readonly Clip[]): string[] =>
  clips.toSorted((a, b) => syncPlace(a) - syncPlace(b)).map((clip) => clip.id)
