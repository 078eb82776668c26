import {
  apply,
  checkChange,
  changeSchema,
  invert,
  isEmpty,
  type Change,
  type ReelDocument,
  type Result,
} from '@yodel/core'
import type { AppDispatch, RootState } from '../../app/store.js'
import { documentActions, type Act } from './documentSlice.js'
import { viewActions } from './viewSlice.js'

type Thunk<T> = (dispatch: AppDispatch, getState: () => RootState) => T

/**
 * Does an edit: computes it on the present document, checks the rules, shows it at once and lets it be sent.
 * A refusal is shown to the editor and changes nothing.
 *
 * @returns Whether it was done.
 */
export function edit(compute: (doc: ReelDocument) => Result<Change>): Thunk<boolean> {
  return (dispatch, getState) => {
    const { doc } = getState().document
    const change = compute(doc)
    if (!change.ok) {
      dispatch(viewActions.notify({ tone: 'problem', text: change.message }))
      return false
    }
    if (isEmpty(change.value)) return true
    const after = apply(doc, change.value)
    const checked = after.ok ? checkChange(after.value, change.value) : after
    if (!checked.ok) {
      dispatch(viewActions.notify({ tone: 'problem', text: checked.message }))
      return false
    }
    dispatch(documentActions.done({ changeId: crypto.randomUUID(), change: change.value }))
    return true
  }
}

let turning: Promise<void> = Promise.resolve()

/** Takes back the last act, or does the last one taken back again; works across reloads. Quick presses wait for each other. */
export function turn(role: 'undo' | 'redo'): Thunk<Promise<void>> {
  return (dispatch, getState) => {
    dispatch(documentActions.turnAsked())
    turning = turning
      .then(() => turnOnce(role, dispatch, getState))
      .finally(() => dispatch(documentActions.turnOver()))
    return turning
  }
}

async function turnOnce(
  role: 'undo' | 'redo',
  dispatch: AppDispatch,
  getState: () => RootState,
): Promise<void> {
  const { reelId, [role]: acts } = getState().document
  const act = acts.at(-1)
  if (!act || !reelId) return
  const change = act.change ?? (await fetchChange(reelId, act))
  const { doc, [role]: present } = getState().document
  // Acknowledgement numbers an act anew; anything else on top was done while the change was fetched.
  const now = present.at(-1)
  if (!now || now.seq !== act.seq || now.changeId !== act.changeId) return
  const made = change && (role === 'undo' ? invert(change) : change)
  const applied = made && apply(doc, made)
  const after = made && applied?.ok ? checkChange(applied.value, made) : applied
  const problem = !after
    ? 'The server does not answer, so what was done before the reload can’t be fetched.'
    : !after.ok
      ? after.message
      : null
  if (!change || problem)
    dispatch(viewActions.notify({ tone: 'problem', text: `Can’t ${role} “${act.label}”. ${problem ?? ''}` }))
  else dispatch(documentActions.turned({ role, act, change, changeId: crypto.randomUUID() }))
}

async function fetchChange(reelId: string, act: Act): Promise<Change | null> {
  try {
    const response = await fetch(`/api/reels/${reelId}/changes/${act.seq}`)
    return response.ok ? changeSchema.parse(await response.json()) : null
  } catch {
    return null
  }
}
