import { documentOf, isEmpty, type Change, type ReelDocument, type Result } from '@yodel/core'
import { changeOn, edit } from './edit.js'
import type { AppDispatch, RootState } from './store.js'
import { FetchFailed, fetchReel, sendChange } from './sync/syncWire.js'
import { viewActions } from './viewSlice.js'

/** How often it is tried while the server is away, and how long it waits in between. */
const TRIES = 60
const PAUSE_MS = 2000

/**
 * Does an edit on the reel it was meant for, whichever is open by now: what takes long (a movie that is sent and looked through)
 * must not end in another reel because somebody went there meanwhile. To a reel that is not open any more it is sent at once.
 * A refusal is shown to the editor and changes nothing.
 *
 * @param what - What is edited, for a refusal that is read elsewhere, such as `harbour.mp4 for Reel 1`
 * @returns Whether it was done.
 */
export function editReel(reelId: string, what: string, compute: (doc: ReelDocument) => Result<Change>) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<boolean> => {
    const { document } = getState()
    if (document.reelId === reelId && document.phase === 'open') return dispatch(edit(compute))
    // The same for each time that it is sent, by which the server knows it again.
    const changeId = crypto.randomUUID()
    let why: string | null = null
    for (let left = TRIES; left > 0; left--) {
      const sent = await sendEdit(reelId, changeId, compute)
      if (sent.kind === 'done') return true
      why = sent.why
      if (sent.kind === 'refused') break
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS))
    }
    dispatch(viewActions.notify({ tone: 'problem', text: `${what}: nothing was changed. ${why ?? ''}` }))
    return false
  }
}

/** What came of an edit that was sent: what is `away` can be tried again. */
type Sent = { readonly kind: 'done' } | { readonly kind: 'away' | 'refused'; readonly why: string }

const NO_ANSWER: Sent = { kind: 'away', why: 'The server does not answer; do it again later.' }
const NO_ROOM: Sent = { kind: 'away', why: 'The server’s disk is full; make room, then do it again.' }

/** Does an edit on a reel as the server has it. */
async function sendEdit(
  reelId: string,
  changeId: string,
  compute: (doc: ReelDocument) => Result<Change>,
): Promise<Sent> {
  const signal = AbortSignal.timeout(60_000)
  try {
    const reel = await fetchReel(reelId, signal)
    const computed = changeOn(documentOf(reel.records), compute)
    if (!computed.ok) return { kind: 'refused', why: computed.message }
    if (isEmpty(computed.value)) return { kind: 'done' }
    const item = { changeId, role: 'do', of: null, change: computed.value } as const
    const send = { kind: 'send', id: 0, item, base: reel.seq, target: null } as const
    const answer = await sendChange(reelId, send, signal)
    if (answer.kind === 'committed') return { kind: 'done' }
    if (answer.kind === 'refused') return { kind: 'refused', why: answer.why }
    return answer.kind === 'full' ? NO_ROOM : NO_ANSWER
  } catch (error) {
    if (error instanceof FetchFailed && error.kind !== 'away') return { kind: 'refused', why: error.message }
    if (error instanceof FetchFailed || signal.aborted) return NO_ANSWER
    throw error
  }
}
