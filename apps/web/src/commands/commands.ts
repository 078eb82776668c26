import {
  cueCode,
  cuesInOrder,
  deleteRecords,
  editCue,
  editTrack,
  frameToSample,
  moveClips,
  nearestMark,
  nextMark,
  rateOf,
  sampleToFrame,
  shapeClips,
  spotCue,
  type Category,
  type Clip,
  type Cue,
  type Frames,
} from '@yodel/core'
import { useMemo } from 'react'
import { useAppDispatch, useAppStore, type AppDispatch, type AppStore } from '../document/store.js'
import { Listening } from '../session/Listening.js'
import { makeClipCommands } from './clipCommands.js'
import { edit, turn } from '../document/edit.js'
import { useSession, type Session } from '../session/session.js'
import { makeGateCommands } from './gateCommands.js'
import { makeSwapCommands } from './swapCommands.js'
import { makeTryCommands } from './tryCommands.js'
import { viewActions } from '../document/viewSlice.js'

/** Everything an editor can do on the Sheet, by whatever hand: keys, buttons and menus all call these. */
export type Commands = ReturnType<typeof makeCommands>

/** The commands of the open reel. */
export function useCommands(): Commands {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const session = useSession()
  return useMemo(() => makeCommands(dispatch, store, session), [dispatch, store, session])
}

function makeCommands(dispatch: AppDispatch, store: AppStore, session: Session) {
  const { transport, listening } = session
  const doc = () => store.getState().document.doc
  const selected = () => store.getState().view.selected
  const selectedCue = (): Cue | null => doc().cue.get(selected()[0] ?? '') ?? null
  const selectedClips = (): Clip[] => selected().flatMap((id) => doc().clip.get(id) ?? [])
  const refuse = (text: string): void => void dispatch(viewActions.notify({ tone: 'problem', text }))

  const gate = makeGateCommands(dispatch, store, transport)
  /** Of the selected sounds, else of the selected cue. */
  const setAtGate = (field: 'in' | 'out' | 'sync'): void => {
    if (field === 'sync' ? gate.syncToGate() : gate.trimToGate(field === 'in' ? 'head' : 'tail')) return
    const cue = selectedCue()
    if (!cue)
      return refuse(
        `Select a cue or a sound first; then ${field === 'in' ? '[' : field === 'out' ? ']' : '\\'} sets its ${field} at the gate.`,
      )
    const frame = transport.frameOnScreen
    // The out is the last frame seen, so the span ends after it.
    const fields =
      field === 'out'
        ? { out: frame + 1 }
        : field === 'in'
          ? { in: frame, ...(cue.sync === cue.in ? { sync: frame } : {}) }
          : { sync: frame }
    dispatch(edit((now) => editCue(now, { id: cue.id, fields })))
  }

  const goToCue = (direction: 1 | -1): void => {
    const cues = cuesInOrder(doc())
    // From a sound one goes on from its cue: that is where one is after keeping it.
    const here = selectedCue() ?? doc().cue.get(selectedClips()[0]?.cueId ?? '')
    const at = here ? cues.findIndex((cue) => cue.id === here.id) : -1
    const { frame } = transport
    const next =
      here && at >= 0 && (frame === here.in || frame === here.sync)
        ? cues[at + direction]
        : direction > 0
          ? cues.find((cue) => cue.in > frame)
          : cues.findLast((cue) => cue.in < frame)
    if (!next) return
    dispatch(viewActions.select([next.id]))
    transport.goToFrame(next.in)
  }

  const nudge = (samples: number): void => {
    const clips = selectedClips()
    if (clips.length === 0) return refuse('Select a sound first; then Alt with an arrow moves it.')
    if (!dispatch(edit((now) => moveClips(now, { ids: clips.map((clip) => clip.id), by: samples })))) return
    const moved = doc().clip.get(clips[0]?.id ?? '')
    if (moved && !transport.rolling) transport.goToSample(moved.start + moved.sync - moved.offset)
  }

  return {
    ...makeClipCommands(dispatch, store, session),
    ...makeSwapCommands(dispatch, store, transport),
    ...makeTryCommands(dispatch, store, session),
    ...gate,
    /** Drops a cue of a category on the frame that is on screen, and selects it. */
    spot(category: Category): string | null {
      const id = crypto.randomUUID()
      const frame = transport.frameOnScreen
      if (!dispatch(edit((now) => spotCue(now, { id, category, in: frame, out: frame + 1 })))) return null
      dispatch(viewActions.spotted(id))
      return id
    },
    /** The key of a cue just dropped is released: held while rolling, the cue lasts until now. Then its words can be typed. */
    endSpot: (id: string) => {
      const cue = doc().cue.get(id)
      if (!cue) return
      const frame = transport.frameOnScreen
      // A tap of a few frames is a press, not a span.
      if (transport.rolling && frame - cue.in > rateOf(doc()).nominal / 4)
        dispatch(edit((now) => editCue(now, { id, fields: { out: frame }, label: `Hold ${cueCode(cue)}` })))
      dispatch(viewActions.setTyping(id))
    },
    /** Drops another cue like the one spotted last, with its category and words, at the gate. */
    spotAgain: () => {
      const last = doc().cue.get(store.getState().view.lastSpotted ?? '')
      if (!last) return refuse('Nothing has been spotted yet that could be repeated; 1 to 6 drop a cue.')
      const id = crypto.randomUUID()
      const frame = transport.frameOnScreen
      if (
        dispatch(
          edit((now) =>
            spotCue(now, {
              id,
              category: last.category,
              in: frame,
              out: frame + last.out - last.in,
              words: last.words,
            }),
          ),
        )
      )
        dispatch(viewActions.spotted(id))
    },
    /** Jumps back three seconds; a rolling reel rolls on from there. */
    back: () => transport.goToFrame(transport.frame - 3 * rateOf(doc()).nominal),
    /** Goes to the next or previous of sorted frames. */
    goToMark: (marks: readonly number[], direction: 1 | -1, what: string) => {
      const mark = nextMark(marks, transport.frame, direction)
      if (mark === null) refuse(`There is no ${direction > 0 ? 'later' : 'earlier'} ${what}.`)
      else transport.goToFrame(mark)
    },
    /** Snaps the gate to the nearest of frames within half a second. */
    snap: (marks: readonly number[]) => {
      const mark = nearestMark(marks, transport.frame, Math.round(rateOf(doc()).nominal / 2))
      if (mark === null) refuse('No onset and no cut within half a second of the gate.')
      else transport.goToFrame(mark)
    },
    /** Begins a note on the selected cue, else at the gate. */
    note: () => {
      const cue = selectedCue()
      dispatch(viewActions.setNoting({ cueId: cue?.id ?? null, frame: cue?.sync ?? transport.frame }))
    },
    /** Lets the selected cue's words be typed. */
    typeWords: () => void dispatch(viewActions.setTyping(selectedCue()?.id ?? null)),
    /** Typing has ended. */
    typed: () => void dispatch(viewActions.setTyping(null)),
    remove: () => {
      if (selected().length > 0 && dispatch(edit((now) => deleteRecords(now, { ids: selected() }))))
        dispatch(viewActions.select([]))
    },
    gainBy: (db: number) =>
      void dispatch(
        edit((now) => shapeClips(now, { ids: selectedClips().map((clip) => clip.id), gainBy: db })),
      ),
    nudgeFrames: (frames: number) => {
      const clip = selectedClips()[0]
      if (!clip) return nudge(0)
      const rate = rateOf(doc())
      // By the frame under the sync point, so that rates without a whole number of samples a frame add up no error.
      const syncAt = clip.start + clip.sync - clip.offset
      const frame = sampleToFrame(syncAt, rate)
      nudge(frameToSample((frame + frames) as Frames, rate) - frameToSample(frame, rate))
    },
    nudgeTenths: (tenths: number) =>
      nudge(Math.round((tenths * frameToSample(10_000 as Frames, rateOf(doc()))) / 100_000)),
    setIn: () => setAtGate('in'),
    setOut: () => setAtGate('out'),
    setSync: () => setAtGate('sync'),
    nextCue: () => goToCue(1),
    previousCue: () => goToCue(-1),
    /** Listening to recordings by themselves. */
    listening: new Listening(store, listening, refuse),
    mute: () => {
      const clips = selectedClips()
      const first = clips[0]
      if (first)
        dispatch(
          edit((now) =>
            shapeClips(now, {
              ids: clips.map((clip) => clip.id),
              fields: { mute: !first.mute },
              label: `${first.mute ? 'Unmute' : 'Mute'} ${clips.length > 1 ? `${clips.length} sounds` : first.name}`,
            }),
          ),
        )
      else refuse('Select a sound first; M mutes it.')
    },
    solo: () => {
      const track = doc().track.get(selectedClips()[0]?.trackId ?? '')
      if (track)
        dispatch(
          edit((now) =>
            editTrack(now, {
              id: track.id,
              fields: { solo: !track.solo },
              label: `${track.solo ? 'End solo of' : 'Solo'} ${track.name}`,
            }),
          ),
        )
      else refuse('Select a sound first; S solos its track.')
    },
    undo: () => void dispatch(turn('undo')),
    redo: () => void dispatch(turn('redo')),
    zoomBy: (factor: number) => void dispatch(viewActions.zoomTo(store.getState().view.zoom * factor)),
    selectedCue,
  }
}
