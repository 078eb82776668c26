import {
  apply,
  checkChange,
  cleanChange,
  isEmpty,
  ok,
  type Change,
  type ReelDocument,
  type Result,
} from '@yodel/core'
import { documentActions } from './documentSlice.js'
import type { AppDispatch, RootState } from './store.js'
import { viewActions } from './viewSlice.js'

type Thunk<T> = (dispatch: AppDispatch, getState: () => RootState) => T

/**
 * Does an edit: computes it on the present document, checks the rules, shows it at once and lets it be sent.
 * Control characters in texts are taken out. A refusal is shown to the editor and changes nothing.
 *
 * @returns Whether it was done.
 */
export function edit(compute: (doc: ReelDocument) => Result<Change>): Thunk<boolean> {
  return (dispatch, getState) => {
    const computed = changeOn(getState().document.doc, compute)
    if (!computed.ok) {
      dispatch(viewActions.notify({ tone: 'problem', text: computed.message }))
      return false
    }
    if (!isEmpty(computed.value))
      dispatch(documentActions.done({ changeId: crypto.randomUUID(), change: computed.value }))
    return true
  }
}

/** What an edit comes to on a document, without control characters and with the rules checked; empty when it changes nothing. */
export function changeOn(doc: ReelDocument, compute: (doc: ReelDocument) => Result<Change>): Result<Change> {
  const computed = compute(doc)
  if (!computed.ok || isEmpty(computed.value)) return computed
  const change = cleanChange(computed.value)
  const after = apply(doc, change)
  const checked = after.ok ? checkChange(after.value, change) : after
  return checked.ok ? ok(change) : checked
}

/** Takes back the last act, or does the last one taken back again; works across reloads. Quick presses wait for each other. */
export function turn(role: 'undo' | 'redo'): Thunk<void> {
  return (dispatch) => void dispatch(documentActions.turn({ role, changeId: crypto.randomUUID() }))
}
