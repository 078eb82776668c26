import {
  bendClips,
  copyClips,
  crossfadeClips,
  deleteRecords,
  duplicateClips,
  frameToSample,
  groupClips,
  pasteClips,
  repeatClip,
  samplesIn,
  shapeClips,
  splitClips,
  type Change,
  type Clip,
  type ReelDocument,
  type Result,
} from '@yodel/core'
import type { CommandContext } from './context.js'
import { copiedClips, storeCopied } from './copied.js'

/** Longest crossfade that is made by key. */
const CROSSFADE = samplesIn(0.5)
/** Seams of what is repeated; at most half of the sound. */
const SEAM = samplesIn(1)

const nameOf = (clips: readonly Pick<Clip, 'name'>[]): string =>
  clips.length === 1 ? (clips[0]?.name ?? '') : `${clips.length} sounds`

/** What can be done to placed sounds beyond moving and trimming them. */
export function shapingCommands(context: CommandContext) {
  const { doc, rate, clips, selected, gate, edit, editAndSelect, select, refuse, tell, newId } = context
  const ids = (): string[] => clips().map((clip) => clip.id)
  /** Does an edit of the selected sounds; what it adds is selected after. */
  const shape = (what: string, compute: (now: ReelDocument) => Result<Change>): void => {
    if (clips().length === 0) return refuse(`Select a sound first; then it can be ${what}.`)
    editAndSelect(compute)
  }
  return {
    split: () => shape('split at the gate', (now) => splitClips(now, { ids: ids(), at: gate(), newId })),
    duplicate: () => shape('duplicated', (now) => duplicateClips(now, { ids: ids(), newId })),
    crossfade: () => shape('crossfaded', (now) => crossfadeClips(now, { ids: ids(), length: CROSSFADE })),
    /** Plays the selected sounds backwards, or forwards again. */
    reverse: () => {
      const fields = { reverse: !clips()[0]?.reverse }
      shape('reversed', (now) => bendClips(now, { ids: ids(), fields, label: 'Reverse' }))
    },
    swapSides: () => {
      const sides = clips()[0]?.sides === 'swapped' ? 'kept' : 'swapped'
      const label = 'Swap left and right'
      shape('mirrored', (now) => bendClips(now, { ids: ids(), fields: { sides }, label }))
    },
    /** Repeats a sound to the end of its cue; to the gate where it has none or the gate lies beyond. */
    repeat: () =>
      shape('repeated', (now) => {
        const [clip] = clips()
        const cue = now.cue.get(clip?.cueId ?? '')
        const until = Math.max(gate(), cue ? frameToSample(cue.out, rate()) : 0)
        return repeatClip(now, { id: clip?.id ?? '', until, overlap: SEAM, newId })
      }),
    copy: () => {
      const copied = copyClips(doc(), ids())
      if (copied.clips.length === 0) return refuse('Select a sound first; then it can be copied.')
      storeCopied(copied)
      const one = copied.clips.length === 1
      tell(`${nameOf(copied.clips)} copied. Pasted, ${one ? 'it lies' : 'they lie'} at the gate.`)
    },
    cut: () =>
      shape('cut out', (now) => {
        storeCopied(copyClips(now, ids()))
        return deleteRecords(now, { ids: ids() })
      }),
    paste: () => {
      const copied = copiedClips()
      if (!copied) return refuse('Nothing was copied yet. Select sounds, and copy them first.')
      const cueId = selected().find((id) => doc().cue.has(id)) ?? null
      editAndSelect((now) => pasteClips(now, { copied, at: gate(), cueId, newId }))
    },
    /** Deletes what is selected, whatever it is. */
    remove: () => {
      if (selected().length > 0 && edit((now) => deleteRecords(now, { ids: selected() }))) select([])
    },
    gainBy: (db: number) => void edit((now) => shapeClips(now, { ids: ids(), gainBy: db })),
    /** Each of the selected sounds lower than the one before it. */
    stepGain: (db: number) => {
      const label = `Each ${Math.abs(db)} dB ${db < 0 ? 'softer' : 'louder'}`
      shape('made softer step by step', (now) =>
        shapeClips(now, { ids: ids(), gainBy: db, stepBy: db, label }),
      )
    },
    mute: () => {
      const [first] = clips()
      if (!first) return refuse('Select a sound first; M mutes it.')
      const label = `${first.mute ? 'Unmute' : 'Mute'} ${nameOf(clips())}`
      edit((now) => shapeClips(now, { ids: ids(), fields: { mute: !first.mute }, label }))
    },
    toggleLock: () => {
      const locked = !clips()[0]?.locked
      const label = locked ? 'Lock' : 'Unlock'
      shape('locked', (now) => shapeClips(now, { ids: ids(), fields: { locked }, label }))
    },
    group: () => shape('grouped', (now) => groupClips(now, { ids: ids(), group: newId() })),
    /** Takes groups and stacks apart. */
    ungroup: () => shape('taken apart', (now) => groupClips(now, { ids: ids(), group: '' })),
    /** Makes one thing of the selected sounds, which bears the name of their cue, or of the first of them. */
    stack: () =>
      shape('stacked', (now) => {
        const [first] = clips()
        const words = now.cue.get(first?.cueId ?? '')?.words
        return groupClips(now, { ids: ids(), group: newId(), name: words || (first?.name ?? '') })
      }),
  }
}
