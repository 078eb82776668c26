import {
  bendClips,
  clipsAfter,
  clipsLike,
  copyClips,
  copyRide,
  crossfadeClips,
  deleteRecords,
  duplicateClips,
  followSource,
  frameToSample,
  pasteClips,
  removeEmptyTracks,
  repeatClip,
  shapeClips,
  soloOnly,
  splitClips,
  rateOf,
  type Alike,
  type Change,
  type Clip,
  type Frames,
  type ReelDocument,
  type Result,
} from '@yodel/core'
import type { AppDispatch, AppStore } from '../document/store.js'
import { copiedClips, keepCopied, keepCopiedRide } from './copied.js'
import { edit } from '../document/edit.js'
import type { Session } from '../session/session.js'
import { viewActions } from '../document/viewSlice.js'

/** Longest crossfade that is made by key: half a second. */
const CROSSFADE = 24_000
/** Seams of what is repeated: a second, at most half of the sound. */
const SEAM = 48_000

const newId = (): string => crypto.randomUUID()

/** What can be done with placed sounds beyond moving and trimming them. */
export function makeClipCommands(
  dispatch: AppDispatch,
  store: AppStore,
  { transport, liveRide }: Pick<Session, 'transport' | 'liveRide'>,
) {
  const doc = (): ReelDocument => store.getState().document.doc
  const clips = (): Clip[] => store.getState().view.selected.flatMap((id) => doc().clip.get(id) ?? [])
  const ids = (): string[] => clips().map((clip) => clip.id)
  const say = (text: string): void => void dispatch(viewActions.notify({ tone: 'problem', text }))
  /** The track of the first chosen sound, or the chosen track. */
  const chosenTrack = (): string | undefined =>
    clips()[0]?.trackId ?? store.getState().view.selected.find((one) => doc().track.get(one))
  const gate = (): number => frameToSample(transport.frame as Frames, rateOf(doc()))

  /** Does an edit of the chosen sounds; what it adds is chosen after. */
  const withChosen = (what: string, compute: (now: ReelDocument) => Result<Change>): void => {
    if (clips().length === 0) return say(`Select a sound first; then it can be ${what}.`)
    doAndChoose(compute)
  }
  const doAndChoose = (compute: (now: ReelDocument) => Result<Change>): void => {
    const before = doc()
    if (!dispatch(edit(compute))) return
    const fresh = [...doc().clip.keys()].filter((id) => !before.clip.get(id))
    if (fresh.length > 0) dispatch(viewActions.select(fresh))
  }
  const choose = (chosen: readonly string[], what: string): void => {
    if (chosen.length === 0) return say(`There is no sound ${what}.`)
    dispatch(viewActions.select(chosen))
  }

  return {
    split: () => withChosen('split at the gate', (now) => splitClips(now, { ids: ids(), at: gate(), newId })),
    duplicate: () => withChosen('duplicated', (now) => duplicateClips(now, { ids: ids(), newId })),
    crossfade: () =>
      withChosen('crossfaded', (now) => crossfadeClips(now, { ids: ids(), length: CROSSFADE })),
    reverse: () =>
      withChosen('turned round', (now) =>
        bendClips(now, { ids: ids(), fields: { reverse: !clips()[0]?.reverse }, label: 'Turn round' }),
      ),
    swapSides: () =>
      withChosen('mirrored', (now) =>
        bendClips(now, {
          ids: ids(),
          fields: { sides: clips()[0]?.sides === 'swapped' ? 'kept' : 'swapped' },
          label: 'Exchange left and right',
        }),
      ),
    /** Repeats a sound to the end of its cue; to the gate where it has none or the gate lies beyond. */
    repeat: () =>
      withChosen('repeated', (now) => {
        const [clip] = clips()
        const cue = now.cue.get(clip?.cueId ?? '')
        const until = Math.max(gate(), cue ? frameToSample(cue.out as Frames, rateOf(now)) : 0)
        return repeatClip(now, { id: clip?.id ?? '', until, overlap: SEAM, newId })
      }),
    copy: () => {
      const copied = copyClips(doc(), ids())
      if (copied.clips.length === 0) return say('Select a sound first; then it can be copied.')
      keepCopied(copied)
      dispatch(
        viewActions.notify({
          tone: 'plain',
          text: `${copied.clips.length === 1 ? copied.clips[0]?.name : `${copied.clips.length} sounds`} copied. Ctrl V lays ${copied.clips.length === 1 ? 'it' : 'them'} at the gate.`,
        }),
      )
    },
    cut: () =>
      withChosen('cut out', (now) => {
        keepCopied(copyClips(now, ids()))
        return deleteRecords(now, { ids: ids() })
      }),
    paste: () => {
      const copied = copiedClips()
      if (!copied) return say('Nothing was copied yet. Ctrl C copies the selected sounds.')
      const cueId = store.getState().view.selected.find((id) => doc().cue.get(id)) ?? null
      doAndChoose((now) => pasteClips(now, { copied, at: gate(), cueId, newId }))
    },
    /** Each of the chosen sounds lower than the one before it. */
    stepGain: (db: number) =>
      withChosen('made softer step by step', (now) =>
        shapeClips(now, {
          ids: ids(),
          gainBy: db,
          stepBy: db,
          label: `Each ${Math.abs(db)} dB ${db < 0 ? 'softer' : 'louder'}`,
        }),
      ),
    toggleLock: () => {
      const locked = !clips()[0]?.locked
      withChosen('locked', (now) =>
        shapeClips(now, { ids: ids(), fields: { locked }, label: locked ? 'Lock' : 'Unlock' }),
      )
    },
    group: (together: boolean) =>
      withChosen('grouped', (now) =>
        shapeClips(now, {
          ids: ids(),
          fields: { group: together ? newId() : '' },
          label: together ? `Group ${ids().length} sounds` : 'Ungroup',
        }),
      ),
    chooseAll: () => choose(clipsAfter(doc(), 0), 'in the reel'),
    chooseAfter: () => choose(clipsAfter(doc(), gate()), 'after the gate'),
    chooseLike: (alike: Alike) => {
      const [clip] = clips()
      if (!clip) return say('Select a sound first; then those like it can be chosen.')
      choose(clipsLike(doc(), clip, alike), 'like it')
    },
    /** Begins to have a track follow the picture. */
    follow: () => {
      const trackId = chosenTrack()
      if (trackId === undefined)
        return say('Select a sound or a track first; then clicks on the picture say where its source is.')
      dispatch(viewActions.setFollowing({ trackId, seen: [] }))
    },
    /** Ends following: the pan ride of the clicks is kept, or nothing. @returns Whether a track was following. */
    endFollowing: (kept: boolean): boolean => {
      const { following } = store.getState().view
      if (!following) return false
      if (!kept || dispatch(edit((now) => followSource(now, { ...following, newId }))))
        dispatch(viewActions.setFollowing(null))
      return true
    },
    /** Begins or ends riding a track by hand: the one given, else that of the selected sound. */
    rideLive: (trackId = chosenTrack(), what = store.getState().view.ride ?? 'level') => {
      if (trackId === undefined)
        return say('Select a sound or a track first; then it can be ridden while the reel plays.')
      dispatch(viewActions.select([trackId]))
      liveRide.toggle(trackId, what)
    },
    rideTo: (value: number) => liveRide.to(value),
    /** @returns Whether a track is being ridden. */
    rideBy: (steps: number) => liveRide.by(steps),
    copyRide: (trackId: string, what: 'level' | 'pan') => {
      const copied = copyRide(doc(), trackId, what)
      if (copied) keepCopiedRide(copied)
    },
    removeEmptyTracks: () => void dispatch(edit(removeEmptyTracks)),
    soloOnly: () => {
      const id = chosenTrack()
      if (id === undefined) return say('Select a sound or a track first.')
      dispatch(edit((now) => soloOnly(now, { id })))
    },
  }
}
