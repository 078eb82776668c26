import {
  frames,
  frameToSample,
  rateOf,
  withStacks,
  type Change,
  type Clip,
  type Cue,
  type FrameRate,
  type ReelDocument,
  type Result,
  type Samples,
} from '@yodel/core'
import { edit } from '../document/edit.js'
import type { AppDispatch, AppStore, RootState } from '../document/store.js'
import { viewActions } from '../document/viewSlice.js'
import type { Session } from '../session/session.js'

/** What every command works with: the reel as it is at this moment, what is selected, where the gate stands. */
export interface CommandContext extends Session {
  readonly dispatch: AppDispatch
  readonly state: () => RootState
  readonly doc: () => ReelDocument
  readonly rate: () => FrameRate
  /** Ids of what is selected on the Sheet; of stacks that are not opened all layers. */
  readonly selected: () => readonly string[]
  /** The selected sounds. */
  readonly clips: () => Clip[]
  /** The selected cue: the first thing selected, where that is a cue. */
  readonly cue: () => Cue | null
  /** The selected cue, or that of the selected sound while the gate rests where the cue begins or meets: there one is after keeping it. */
  readonly cueHere: () => Cue | null
  /** The track of the first selected sound, or the selected track. */
  readonly track: () => string | undefined
  /** The first sample of the frame at the gate. */
  readonly gate: () => Samples
  /** Does an edit. @returns Whether it was done; a refusal is shown. */
  readonly edit: (compute: (doc: ReelDocument) => Result<Change>) => boolean
  /** Does an edit and selects the sounds that it adds. */
  readonly editAndSelect: (compute: (doc: ReelDocument) => Result<Change>) => boolean
  readonly select: (ids: readonly string[]) => void
  /** Says why something can't be done. */
  readonly refuse: (text: string) => void
  /** Says what was done. */
  readonly tell: (text: string) => void
  readonly newId: () => string
}

/** Makes the context of a session's commands. */
export function makeContext(store: AppStore, session: Session): CommandContext {
  const { dispatch } = store
  const doc = (): ReelDocument => store.getState().document.doc
  const selected = (): readonly string[] => {
    const { view } = store.getState()
    return withStacks(doc(), view.selected, view.openStacks)
  }
  const clips = (): Clip[] => selected().flatMap((id) => doc().clip.get(id) ?? [])
  const select = (ids: readonly string[]): void => void dispatch(viewActions.select(ids))
  const cue = (): Cue | null => doc().cue.get(selected()[0] ?? '') ?? null
  const notify = (tone: 'plain' | 'problem') => (text: string) =>
    void dispatch(viewActions.notify({ tone, text }))
  const does: CommandContext['edit'] = (compute) => dispatch(edit(compute))
  return {
    ...session,
    dispatch,
    state: store.getState,
    doc,
    rate: () => rateOf(doc()),
    selected,
    clips,
    cue,
    cueHere: () => {
      const { frame, rolling } = session.transport
      const ofSound = doc().cue.get(clips()[0]?.cueId ?? '')
      const isThere = ofSound && !rolling && (frame === ofSound.in || frame === ofSound.sync)
      return cue() ?? (isThere ? ofSound : null)
    },
    track: () => clips()[0]?.trackId ?? selected().find((id) => doc().track.has(id)),
    gate: () => frameToSample(frames(session.transport.frame), rateOf(doc())),
    edit: does,
    editAndSelect: (compute) => {
      const before = doc()
      if (!does(compute)) return false
      const fresh = [...doc().clip.keys()].filter((id) => !before.clip.has(id))
      if (fresh.length > 0) select(fresh)
      return true
    },
    select,
    refuse: notify('problem'),
    tell: notify('plain'),
    newId: () => crypto.randomUUID(),
  }
}
