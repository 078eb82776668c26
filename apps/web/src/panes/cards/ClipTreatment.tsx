import {
  addClipPiece,
  CLIP_EFFECTS,
  EFFECT_NAMES,
  piecesOf,
  treatClips,
  treatmentIn,
  treatmentText,
  type Clip,
  type ClipEffect,
  type Insert,
} from '@yodel/core'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { viewActions } from '../../document/viewSlice.js'
import { Pieces, type TreatmentHands } from '../balance/Treatment.js'

/** The treatment that a sound has of its own, before that of its track. */
export function ClipTreatment({ clip }: { clip: Clip }) {
  const dispatch = useAppDispatch()
  const pulled = useAppSelector((state) => state.view.pulled)
  const inserts = treatmentIn(clip)
  const shown = pulled?.kind === 'clip' && pulled.id === clip.id ? treatmentIn(pulled) : inserts
  const treat = (next: readonly Insert[], what: Insert): boolean =>
    dispatch(
      edit((doc) =>
        treatClips(doc, {
          ...{ ids: [clip.id], pieces: piecesOf(next) },
          label: `${EFFECT_NAMES[what.effect]} on ${clip.name}`,
        }),
      ),
    )
  /** The pieces with another in the place of one. */
  const withOther = (insert: Insert, other: Insert): Insert[] =>
    inserts.map((one) => (one.id === insert.id ? other : one))
  const hands: TreatmentHands<ClipEffect> = {
    kinds: CLIP_EFFECTS,
    add: (effect) =>
      dispatch(edit((doc) => addClipPiece(doc, { id: clip.id, effect }))) ? String(inserts.length) : null,
    set: (insert, fields) => treat(withOther(insert, { ...insert, ...fields } as Insert), insert),
    move: (insert, before) => {
      const others = inserts.filter(({ id }) => id !== insert.id)
      const at = before === null ? others.length : others.findIndex(({ id }) => id === before)
      return treat(others.toSpliced(at, 0, insert), insert)
    },
    remove: (insert) =>
      treat(
        inserts.filter(({ id }) => id !== insert.id),
        insert,
      ),
    pull: (insert, next) =>
      void dispatch(
        viewActions.pull(next && { ...clip, treatment: treatmentText(piecesOf(withOther(insert, next))) }),
      ),
    shown: (insert) => shown.find(({ id }) => id === insert.id) ?? insert,
  }
  return <Pieces place={clip.id} inserts={inserts} hands={hands} />
}
