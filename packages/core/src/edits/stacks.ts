import { ok, refuse, type Result } from '../errors.js'
import { chain, type Change } from '../reel/change.js'
import { clipsByGroup, syncPlace, type ReelDocument } from '../reel/document.js'
import type { Clip, Stack } from '../reel/records.js'
import type { ShakenLayer } from '../stacks/shakeStack.js'
import { deleteRecords } from './deleteRecords.js'
import { clipAtSample, layClip } from './placeSound.js'
import { shapeClips } from './shapeClips.js'

/** What a stack is called and made by. */
export type StackFacts = Pick<Stack, 'name' | 'planId' | 'variation'>

const layersOf = (doc: ReelDocument, id: string): readonly Clip[] => clipsByGroup(doc).get(id) ?? []

/** Stacks that would have no layer left when some clips go. */
export function emptiedStacks(doc: ReelDocument, going: ReadonlySet<string>): Stack[] {
  const touched = new Set([...going].map((id) => doc.clip.get(id)?.group ?? ''))
  return [...touched].flatMap((id) => {
    const stack = doc.stack.get(id)
    return stack && !going.has(id) && layersOf(doc, id).every((clip) => going.has(clip.id)) ? [stack] : []
  })
}

/**
 * Lays the layers of a stack around a moment, each on a free track of its category, as one thing and one step.
 *
 * @param args.at - Sample of the reel on which the moment of the stack lies
 * @param args.newId - Makes ids for clips and tracks
 */
export function keepStack(
  doc: ReelDocument,
  args: StackFacts & {
    id: string
    layers: readonly ShakenLayer[]
    at: number
    cueId: string | null
    newId: () => string
    /** Ids for its clips, in the order of the layers; where there are fewer, new ones are made. */
    clipIds?: readonly string[]
  },
): Result<Change> {
  const { id, layers, at, cueId, newId, clipIds = [], name, planId, variation } = args
  const label = `Keep ${name}`
  if (layers.length === 0) return refuse('CORE_NOTHING_TO_LAY', name, 'none of its layers finds a sound')
  const lay = layers.map(({ sound, category, at: after }, index) => (now: ReelDocument) => {
    const clip = clipAtSample({ id: clipIds[index] ?? newId(), trackId: '', cueId, at: at + after, sound })
    return layClip(now, { ...clip, group: id }, { category, newTrackId: newId(), label })
  })
  const stack: Stack = { kind: 'stack', id, name, planId, variation }
  return chain(doc, label, [...lay, () => ok({ label, added: [stack], updated: [], removed: [] })])
}

/**
 * Puts another variation in the place of a stack: its moment, cue and mute stay, the level it was given, and as many of its clips as go on
 * being there, so that what is selected stays selected.
 *
 * @param args.before - The layers as the plan laid them, by which its moment and its level are known
 */
export function swapStack(
  doc: ReelDocument,
  args: {
    id: string
    layers: readonly ShakenLayer[]
    before: readonly ShakenLayer[]
    variation: string
    newId: () => string
  },
): Result<Change> {
  const { id, layers, before, variation, newId } = args
  const stack = doc.stack.get(id)
  const clips = layersOf(doc, id)
  if (!stack || clips.length === 0) return refuse('CORE_RECORD_MISSING', 'swapStack', id)
  const { at, gainBy } = laidBy(clips, before)
  const label = `Another variation of ${stack.name}`
  const wanted = layers.map((layer) => ({
    ...layer,
    sound: { ...layer.sound, gain: Math.max(-96, Math.min(24, (layer.sound.gain ?? 0) + gainBy)) },
  }))
  const cueId = clips[0]?.cueId ?? null
  const clipIds = clips.map((clip) => clip.id)
  const { name, planId } = stack
  return chain(doc, label, [
    (now) => deleteRecords(now, { ids: clipIds }),
    (now) => keepStack(now, { id, name, planId, variation, layers: wanted, at, cueId, newId, clipIds }),
    (now) =>
      shapeClips(now, {
        ids: layersOf(now, id).map((clip) => clip.id),
        fields: { mute: clips.every((clip) => clip.mute) },
      }),
  ])
}

/** Where a stack lies and by how much it was made louder than its plan has it: as most of its layers say that can be told apart, of as many the first. */
function laidBy(clips: readonly Clip[], before: readonly ShakenLayer[]): { at: number; gainBy: number } {
  const pairs = clips.flatMap((clip) => {
    const planned = before.filter(({ sound }) => sound.id === clip.soundId)
    return planned.length === 1 ? [{ clip, planned: planned[0] as ShakenLayer }] : []
  })
  const moments = pairs.map(({ clip, planned }) => syncPlace(clip) - planned.at)
  const gains = pairs.map(({ clip, planned }) => clip.gain - (planned.sound.gain ?? 0))
  return { at: commonest(moments) ?? commonest(clips.map(syncPlace)) ?? 0, gainBy: commonest(gains) ?? 0 }
}

function commonest(values: readonly number[]): number | undefined {
  const count = new Map<number, number>()
  for (const value of values) count.set(value, (count.get(value) ?? 0) + 1)
  return [...count].sort(([, many], [, more]) => more - many)[0]?.[0]
}

/** Renames a stack. */
export function nameStack(doc: ReelDocument, args: { id: string; name: string }): Result<Change> {
  const from = doc.stack.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'nameStack', args.id)
  if (args.name.trim() === '') return refuse('CORE_NO_WORDS', from.name)
  const to = { ...from, name: args.name.trim() }
  return ok({
    label: `Rename ${from.name}`,
    added: [],
    updated: from.name === to.name ? [] : [[from, to]],
    removed: [],
  })
}

/**
 * Puts clips into one group, or into none. A stack that keeps no layer is none any more.
 *
 * @param args.group - Id of the group, or '' for none
 * @param args.name - Makes a stack of the group, with this name
 */
export function groupClips(
  doc: ReelDocument,
  args: { ids: readonly string[]; group: string; name?: string },
): Result<Change> {
  const { ids, group, name } = args
  const clips = ids.map((id) => doc.clip.get(id))
  const missing = clips.indexOf(undefined)
  if (missing >= 0) return refuse('CORE_RECORD_MISSING', 'groupClips', ids[missing])
  const those = clips.filter((clip) => clip !== undefined)
  const what = those.length === 1 ? (those[0]?.name ?? '') : `${those.length} sounds`
  const does = name !== undefined ? 'Stack' : group === '' ? 'Ungroup' : 'Group'
  return ok({
    label: `${does} ${what}`,
    added: name === undefined ? [] : [{ kind: 'stack', id: group, name, planId: '', variation: '' }],
    updated: those.filter((clip) => clip.group !== group).map((clip) => [clip, { ...clip, group }]),
    removed: emptiedStacks(doc, new Set(ids)).filter((stack) => stack.id !== group),
  })
}
