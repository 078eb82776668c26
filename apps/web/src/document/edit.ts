import {
  apply,
  checkChange,
  cleanChange,
  isEmpty,
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
    const { doc } = getState().document
    const refused = ({ message }: { message: string }): boolean => {
      dispatch(viewActions.notify({ tone: 'problem', text: message }))
      return false
    }
    const computed = compute(doc)
    if (!computed.ok) return refused(computed)
    if (isEmpty(computed.value)) return true
    const change = cleanChange(computed.value)
    const after = apply(doc, change)
    const checked = after.ok ? checkChange(after.value, change) : after
    if (!checked.ok) return refused(checked)
    dispatch(documentActions.done({ changeId: crypto.randomUUID(), change }))
    return true
  }
}

/** Takes back the last act, or does the last one taken back again; works across reloads. Quick presses wait for each other. */
export function turn(role: 'undo' | 'redo'): Thunk<void> {
  return (dispatch) => void dispatch(documentActions.turn({ role, changeId: crypto.randomUUID() }))
}
