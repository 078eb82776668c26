import { ok, refuse, type Result } from '../errors.js'
import { chain, type Change } from '../reel/change.js'
import { clipsByGroup, rateOf, syncPlace, type ReelDocument } from '../reel/document.js'
import { findCollision } from '../reel/invariants.js'
import type { Clip, Stack, Track } from '../reel/records.js'
import { withTimes } from '../reel/withTimes.js'
import { frameToSample, sampleToFrame } from '../time/convert.js'
import { frames } from '../time/units.js'
import { addTrack, freeTrack } from './placeSound.js'
import { SHORTEST_CLIP } from './trimClip.js'

/** Sounds that were copied, with the tracks they lay on; they can be pasted into another reel. */
export interface CopiedClips {
  readonly clips: readonly Clip[]
  readonly tracks: readonly Pick<Track, 'id' | 'category'>[]
  /** The stacks whose layers are among them. */
  readonly stacks?: readonly Stack[]
}

/** Copies sounds in the order of time; ids that are no clips are passed over. Stacks are copied whole; single layers as sounds by themselves. */
export function copyClips(doc: ReelDocument, ids: readonly string[]): CopiedClips {
  const chosen = new Set(ids)
  const clips = ids.flatMap((id) => doc.clip.get(id) ?? []).sort((a, b) => syncPlace(a) - syncPlace(b))
  const [whole, parted] = [new Set<string>(), new Set<string>()]
  for (const { group } of clips)
    if (doc.stack.has(group))
      (clipsByGroup(doc)
        .get(group)
        ?.every(({ id }) => chosen.has(id))
        ? whole
        : parted
      ).add(group)
  return {
    clips: clips.map((clip) => (parted.has(clip.group) ? { ...clip, group: '' } : clip)),
    tracks: [...new Set(clips.map((clip) => clip.trackId))].flatMap((id) => doc.track.get(id) ?? []),
    stacks: [...whole].flatMap((id) => doc.stack.get(id) ?? []),
  }
}

/**
 * Pastes sounds: the first one's sync point meets a place, the others keep their distance in time.
 * Each lands on its own track where that is free, else on a free one of the same category, else on a new one.
 *
 * @param args.at - Samples from the reel's first frame.
 * @param args.cueId - The cue they belong to from now on.
 * @param args.newId - Makes ids for clips and tracks.
 */
export function pasteClips(
  doc: ReelDocument,
  args: { copied: CopiedClips; at: number; cueId: string | null; newId: () => string; label?: string },
): Result<Change> {
  const { clips, tracks } = args.copied
  const first = clips[0]
  if (!first) return refuse('CORE_RECORD_MISSING', 'paste', 'nothing was copied')
  const by = args.at - syncPlace(first)
  const groups = new Map<string, string>()
  const label = args.label ?? `Paste ${clips.length === 1 ? first.name : `${clips.length} sounds`}`
  const paste =
    (clip: Clip) =>
    (now: ReelDocument): Result<Change> => {
      if (clip.group !== '' && !groups.has(clip.group)) groups.set(clip.group, args.newId())
      const start = clip.start + by
      if (start < 0) return refuse('CORE_BEFORE_REEL', clip.name, `start ${start}`)
      const group = groups.get(clip.group) ?? ''
      const loose = withTimes(
        { ...clip, id: args.newId(), cueId: args.cueId, group, locked: false },
        { start },
      )
      return onOwnTrack(
        now,
        loose,
        tracks.find((track) => track.id === clip.trackId)?.category ?? 'FX',
        args.newId,
      )
    }
  const stacked = (): Result<Change> => {
    const added = (args.copied.stacks ?? []).flatMap((stack) => {
      const copy = groups.get(stack.id)
      return copy === undefined ? [] : [{ ...stack, id: copy }]
    })
    return ok({ label, added, updated: [], removed: [] })
  }
  return chain(doc, label, [...clips.map(paste), stacked])
}

function onOwnTrack(
  doc: ReelDocument,
  clip: Clip,
  category: Track['category'],
  newId: () => string,
): Result<Change> {
  const change: Change = { label: '', added: [clip], updated: [], removed: [] }
  if (doc.track.get(clip.trackId) && !findCollision(doc, clip)) return ok(change)
  const free = freeTrack(doc, category, clip)
  if (free) return ok({ ...change, added: [{ ...clip, trackId: free.id }] })
  const id = newId()
  const made = addTrack(doc, { id, category })
  return made.ok ? ok({ ...change, added: [...made.value.added, { ...clip, trackId: id }] }) : made
}

/** Copies sounds once more right behind themselves, a whole number of frames later. */
export function duplicateClips(
  doc: ReelDocument,
  args: { ids: readonly string[]; newId: () => string },
): Result<Change> {
  const copied = copyClips(doc, args.ids)
  const first = copied.clips[0]
  if (!first) return refuse('CORE_RECORD_MISSING', 'duplicate', 'no sound is chosen')
  const rate = rateOf(doc)
  const from = Math.min(...copied.clips.map((clip) => clip.start))
  const to = Math.max(...copied.clips.map((clip) => clip.start + clip.length))
  const meet = syncPlace(first)
  const frame = sampleToFrame(meet, rate)
  const beyond =
    frameToSample(frames(sampleToFrame(to - from - 1, rate) + 1 + frame), rate) - frameToSample(frame, rate)
  const label = `Duplicate ${copied.clips.length === 1 ? first.name : `${copied.clips.length} sounds`}`
  return pasteClips(doc, { copied, at: meet + beyond, cueId: first.cueId, newId: args.newId, label })
}

/** As often a sound is repeated at most. */
const MOST_REPEATS = 500

/**
 * Repeats a sound behind itself up to a place, each time crossfaded with the one before at equal power: an ambience of any length.
 *
 * @param args.until - Samples from the reel's first frame.
 * @param args.overlap - Length of the crossfades in samples; at most half of the sound.
 */
export function repeatClip(
  doc: ReelDocument,
  args: { id: string; until: number; overlap: number; newId: () => string },
): Result<Change> {
  const from = doc.clip.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'repeatClip', args.id)
  const overlap = Math.max(1, Math.min(Math.round(args.overlap), Math.floor(from.length / 2)))
  const step = from.length - overlap
  const more = Math.ceil((args.until - from.start - from.length) / step)
  if (more > MOST_REPEATS)
    return refuse(
      'CORE_NOTHING_DONE',
      from.name,
      `it would be laid ${more} times; ${MOST_REPEATS} are the most`,
    )
  if (more < 1 || step < SHORTEST_CLIP)
    return refuse('CORE_NOTHING_DONE', from.name, 'the place to repeat it to lies before its end')
  const group = from.group || args.newId()
  const faded = { fadeOutShape: 'power', fadeInShape: 'power', group } as const
  const first = withTimes(
    { ...from, ...faded, fadeInShape: from.fadeInShape, runDown: 0 },
    { fadeOut: overlap, fadeIn: Math.min(from.fadeIn, step) },
  )
  const added = Array.from({ length: more }, (_, index): Clip => {
    const start = from.start + (index + 1) * step
    const last = index === more - 1
    const length = last ? args.until - start : from.length
    const fadeOut = last ? Math.min(from.fadeOut, length - overlap) : overlap
    const fadeOutShape = last ? from.fadeOutShape : faded.fadeOutShape
    const runDown = last ? Math.min(from.runDown, length) : 0
    const copy: Clip = { ...from, ...faded, id: args.newId(), fadeOutShape, runUp: 0, runDown }
    return withTimes(copy, { start, length, fadeIn: overlap, fadeOut })
  })
  for (const clip of added) {
    const other = findCollision(doc, clip, new Set([from.id]))
    if (other) return refuse('CORE_OVERLAP', from.name, `it would sound over ${other.name}`)
  }
  return ok({ label: `Repeat ${from.name}`, added, updated: [[from, first]], removed: [] })
}
