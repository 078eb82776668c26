import { documentOf, isEmpty, type Change, type ReelDocument, type Result } from '@yodel/core'
import { changeOn, edit } from './edit.js'
import type { AppDispatch, RootState } from './store.js'
import { FetchFailed, fetchReel, sendChange } from './sync/syncWire.js'
import { viewActions } from './viewSlice.js'

/** How long it is tried while the server is away, and how long it waits in between. */
const TRIES = 60
const PAUSE_MS = 2000

/**
 * Does an edit on the reel it was meant for, whichever is open by now: what takes long (a movie that is sent and looked through)
 * must not end in another reel because somebody went there meanwhile. Of a reel that is not open any more the edit is sent at once.
 * A refusal is shown to the editor and changes nothing.
 *
 * @returns Whether it was done.
 */
export function editReel(reelId: string, compute: (doc: ReelDocument) => Result<Change>) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<boolean> => {
    const { document } = getState()
    if (document.reelId === reelId && document.phase === 'open') return dispatch(edit(compute))
    // The same for each time that it is sent, by which the server knows it again.
    const changeId = crypto.randomUUID()
    for (let left = TRIES; left > 0; left--) {
      const why = await sendEdit(reelId, changeId, compute)
      if (why === 'done') return true
      if (why !== 'again') {
        dispatch(viewActions.notify({ tone: 'problem', text: why }))
        return false
      }
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS))
    }
    dispatch(
      viewActions.notify({
        tone: 'problem',
        text: 'The server did not answer, and nothing was changed; do it again.',
      }),
    )
    return false
  }
}

/** Does an edit on a reel as the server has it. @returns `done`, `again` when it can be tried again, or why it was refused */
async function sendEdit(
  reelId: string,
  changeId: string,
  compute: (doc: ReelDocument) => Result<Change>,
): Promise<string> {
  const signal = AbortSignal.timeout(60_000)
  const reel = await fetchReel(reelId, signal).catch((error: unknown) =>
    error instanceof FetchFailed && error.kind !== 'away' ? error.message : null,
  )
  if (reel === null) return 'again'
  if (typeof reel === 'string') return reel
  const computed = changeOn(documentOf(reel.records), compute)
  if (!computed.ok) return computed.message
  if (isEmpty(computed.value)) return 'done'
  const item = { changeId, role: 'do', of: null, change: computed.value } as const
  const send = { kind: 'send', id: 0, item, base: reel.seq, target: null } as const
  const answer = await sendChange(reelId, send, signal).catch(() => null)
  if (answer?.kind === 'committed') return 'done'
  return answer?.kind === 'refused' ? answer.why : 'again'
}
