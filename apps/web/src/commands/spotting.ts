import { cueCode, editCue, spotCue, type Category } from '@yodel/core'
import { viewActions } from '../document/viewSlice.js'
import type { CommandContext } from './context.js'
import type { GateCommands } from './gate.js'

const KEYS = { in: '[', out: ']', sync: '\\' } as const

/** Commands of {@link spottingCommands}. */
export type SpottingCommands = ReturnType<typeof spottingCommands>

/** Dropping cues, their words, their places, and notes. */
export function spottingCommands(context: CommandContext, gate: GateCommands) {
  const { transport, doc, cue, rate, edit, refuse, dispatch, state, newId } = context
  /** Sets the place of the selected sounds, or else of the selected cue. */
  const setAtGate = (field: keyof typeof KEYS): void => {
    if (field === 'sync' ? gate.syncToGate() : gate.trimToGate(field === 'in' ? 'head' : 'tail')) return
    const here = cue()
    if (!here) {
      return refuse(`Select a cue or a sound first; then ${KEYS[field]} sets its ${field} at the gate.`)
    }
    const frame = transport.frameOnScreen
    const first = { in: frame, ...(here.sync === here.in ? { sync: frame } : {}) }
    // The out is the last frame seen, so the span ends after it.
    const fields = field === 'out' ? { out: frame + 1 } : field === 'in' ? first : { sync: frame }
    edit((now) => editCue(now, { id: here.id, fields }))
  }
  return {
    /** Drops a cue of a category on the frame that is on screen, and selects it. */
    drop: (category: Category): string | null => {
      const id = newId()
      const frame = transport.frameOnScreen
      if (!edit((now) => spotCue(now, { id, category, in: frame, out: frame + 1 }))) return null
      dispatch(viewActions.spotted(id))
      return id
    },
    /** The key of a cue just dropped is released: held while rolling, the cue lasts until now. Then its words can be typed. */
    release: (id: string) => {
      const dropped = doc().cue.get(id)
      if (!dropped) return
      const out = transport.frameOnScreen
      // A tap of a few frames is a press, not a span.
      const isHeld = transport.rolling && out - dropped.in > rate().nominal / 4
      if (isHeld) edit((now) => editCue(now, { id, fields: { out }, label: `Hold ${cueCode(dropped)}` }))
      dispatch(viewActions.setTyping(id))
    },
    /** Drops another cue like the one spotted last, with its category and words, at the gate. */
    again: () => {
      const last = doc().cue.get(state().view.lastSpotted ?? '')
      if (!last) return refuse('Nothing has been spotted yet that could be repeated; 1 to 6 drop a cue.')
      const id = newId()
      const frame = transport.frameOnScreen
      const { category, words } = last
      const span = { in: frame, out: frame + last.out - last.in }
      if (edit((now) => spotCue(now, { id, category, ...span, words }))) dispatch(viewActions.spotted(id))
    },
    setIn: () => setAtGate('in'),
    setOut: () => setAtGate('out'),
    setSync: () => setAtGate('sync'),
    /** Begins a note on the selected cue, or at the gate. */
    note: () => {
      const here = cue()
      dispatch(viewActions.setNoting({ cueId: here?.id ?? null, frame: here?.sync ?? transport.frame }))
    },
    /** Lets the selected cue's words be typed. */
    typeWords: () => void dispatch(viewActions.setTyping(cue()?.id ?? null)),
    /** Typing has ended. */
    typed: () => void dispatch(viewActions.setTyping(null)),
  }
}
