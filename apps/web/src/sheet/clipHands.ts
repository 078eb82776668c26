import {
  clipsByGroup,
  formatTimecode,
  frameOfSample,
  frameToSample,
  moveClips,
  neighbourAt,
  rateOf,
  rollBoundary,
  samplesPerFrame,
  secondsOf,
  sampleToFrame,
  shapeClips,
  slipClip,
  syncPlace,
  trimClip,
  withGroups,
  withStacks,
  type Clip,
  type FrameRate,
  type ReelDocument,
  type ReelMarks,
} from '@yodel/core'
import type { PointerEvent as ReactPointerEvent } from 'react'
import type { AppStore } from '../document/store.js'
import { viewActions } from '../document/viewSlice.js'
import type { Transport } from '../session/Transport.js'
import { makeSnapper, type Snapper } from './snapper.js'
import { startDrag, type Dragging, type DragPlan } from './startDrag.js'

type Bound = Record<string, unknown>
type End = 'head' | 'tail'
type Fade = 'fadeIn' | 'fadeOut'

/** Handlers that clips are given; the same ones as long as the reel is open, so that a drag draws only what it moves. */
export interface ClipHands {
  /** Moves the sound; with Alt what is heard inside it, with Shift into crossfades with what it meets. */
  readonly bindBody: (clip: Clip) => Bound
  /** Trims an end; with Alt moves the boundary with the neighbour. */
  readonly bindTrim: (clip: Clip, end: End) => Bound
  readonly bindFade: (clip: Clip, end: Fade) => Bound
  /** Turns the gain up and down, by tenths with Shift. */
  readonly bindGain: (clip: Clip) => Bound
}

/** What the handlers work with. */
export interface HandsContext {
  readonly store: AppStore
  readonly transport: Transport
  readonly rate: FrameRate
  /** Timecode of the reel's first frame. */
  readonly firstFrame: number
  readonly marks: () => ReelMarks
  /** Id of the track under a horizontal place on the page, or null. */
  readonly trackAt: (x: number) => string | null
  readonly show: (dragging: Dragging | null, refused: string | null) => void
}

/** Decibels of a pixel when the gain is dragged; a tenth of it with Shift. */
const GAIN_STEP = 0.25
/** Makes the handlers of all clips. */
export function makeClipHands(context: HandsContext): ClipHands {
  return {
    bindBody: (clip) => ({
      onPointerDown: (down: ReactPointerEvent) => dragBody(context, clip, down),
      onFocus: () => selectOnFocus(context, clip),
      onDoubleClick: () => {
        if (docOf(context).stack.has(clip.group)) context.store.dispatch(viewActions.toggleStack(clip.group))
      },
    }),
    bindTrim: (clip, end) => ({
      onPointerDown: (down: ReactPointerEvent) => dragEnd(context, clip, end, down),
    }),
    bindFade: (clip, end) => ({
      onPointerDown: (down: ReactPointerEvent) => dragFade(context, clip, end, down),
    }),
    bindGain: (clip) => ({ onPointerDown: (down: ReactPointerEvent) => dragGain(context, clip, down) }),
  }
}

const docOf = ({ store }: HandsContext): ReelDocument => store.getState().document.doc
const perPixel = ({ store, rate }: HandsContext): number => samplesPerFrame(rate) / store.getState().view.zoom

function begin(context: HandsContext, down: ReactPointerEvent, plan: DragPlan): void {
  const { store, transport, show } = context
  startDrag(down, plan, { dispatch: store.dispatch, store, transport, perPixel: perPixel(context), show })
}

const snapperFor = (context: HandsContext, ids: readonly string[]): Snapper =>
  makeSnapper(docOf(context), context.marks(), new Set(ids), context.rate, perPixel(context))

/** What is chosen with a clip: its group, unless that is a stack that was opened. */
const chosenWith = ({ store }: HandsContext, clip: Clip): string[] =>
  withGroups(store.getState().document.doc, [clip.id], store.getState().view.openStacks)

/** Says whether a whole opened stack is selected, and one of its layers is pressed: that alone is meant then. */
function isOneOfOpened({ store }: HandsContext, { group }: Clip): boolean {
  const { document, view } = store.getState()
  const layers = clipsByGroup(document.doc).get(group) ?? []
  return view.openStacks.includes(group) && layers.every(({ id }) => view.selected.includes(id))
}

/** Selects a pressed clip, or adds it with Shift. @returns All clips that are dragged with it. */
function choose(context: HandsContext, clip: Clip, event: ReactPointerEvent): string[] {
  const { store } = context
  const { selected } = store.getState().view
  const doc = docOf(context)
  if (event.shiftKey || event.metaKey) store.dispatch(viewActions.toggleSelected(clip.id))
  else if (!selected.includes(clip.id) || isOneOfOpened(context, clip))
    store.dispatch(viewActions.select(chosenWith(context, clip)))
  const { view } = store.getState()
  const chosen = withStacks(doc, view.selected, view.openStacks).filter((id) => doc.clip.has(id))
  return chosen.includes(clip.id) ? chosen : [clip.id]
}

function selectOnFocus(context: HandsContext, clip: Clip): void {
  const { store } = context
  if (store.getState().view.selected.includes(clip.id)) return
  store.dispatch(viewActions.select(chosenWith(context, clip)))
}

const timecodeAt = ({ rate, firstFrame }: HandsContext, sample: number): string =>
  formatTimecode(firstFrame + sampleToFrame(Math.max(0, sample), rate), rate)

/** A way in frames with its sign: `+3 fr`, `−0.25 fr`. */
function wayInFrames({ rate }: HandsContext, samples: number): string {
  const way = Math.abs(frameOfSample(samples, rate))
  const whole = Number.isInteger(Math.round(way * 100) / 100)
  return `${samples < 0 ? '−' : '+'}${way.toFixed(whole ? 0 : 2)} fr`
}

function dragBody(context: HandsContext, clip: Clip, down: ReactPointerEvent): void {
  const ids = choose(context, clip, down)
  if (down.altKey) return slip(context, clip, down)
  const syncAt = syncPlace(clip)
  const { snap, said } = snapperFor(context, ids)
  const placeIn = (doc: ReelDocument): number => syncPlace(doc.clip.get(clip.id) ?? clip)
  begin(context, down, {
    id: clip.id,
    compute: (doc, { by }, event) => {
      const to = Math.max(clip.sync - clip.offset, snap(syncAt + by, event))
      const trackId = ids.length === 1 ? context.trackAt(event.clientX) : null
      const across = trackId && trackId !== clip.trackId ? { trackId } : {}
      return moveClips(doc, { ids, by: to - syncAt, meet: event.shiftKey, ...across })
    },
    follow: placeIn,
    tell: (doc) =>
      `${timecodeAt(context, placeIn(doc))}  ${wayInFrames(context, placeIn(doc) - syncAt)}${said()}`,
  })
}

function slip(context: HandsContext, clip: Clip, down: ReactPointerEvent): void {
  begin(context, down, {
    id: clip.id,
    compute: (doc, { by }) => slipClip(doc, { id: clip.id, by: Math.round(by) }),
    tell: (doc) =>
      `${clip.name} slipped ${wayInFrames(context, clip.offset - (doc.clip.get(clip.id)?.offset ?? 0))}`,
  })
}

function dragEnd(context: HandsContext, clip: Clip, end: End, down: ReactPointerEvent): void {
  context.store.dispatch(viewActions.select([clip.id]))
  const edge = end === 'head' ? clip.start : clip.start + clip.length
  const { snap, said } = snapperFor(context, [clip.id])
  const other = down.altKey ? neighbourAt(docOf(context), clip, end) : null
  const [first, second] = end === 'head' ? [other, clip] : [clip, other]
  const moved = (doc: ReelDocument): number => {
    const now = doc.clip.get(clip.id) ?? clip
    return (end === 'head' ? now.start : now.start + now.length) - edge
  }
  begin(context, down, {
    id: clip.id,
    compute: (doc, { by }, event) => {
      if (!first || !second) return trimClip(doc, { id: clip.id, end, to: snap(edge + by, event) })
      const to = snap(second.start + by, event)
      return rollBoundary(doc, { firstId: first.id, secondId: second.id, to })
    },
    follow: (doc) => edgeSeen(doc, clip.id, end),
    tell: (doc) => `${timecodeAt(context, edge + moved(doc))}  ${wayInFrames(context, moved(doc))}${said()}`,
  })
}

/** The place that the picture shows while an end is dragged: the first frame in which it sounds, or the last. */
function edgeSeen(doc: ReelDocument, id: string, end: End): number | null {
  const clip = doc.clip.get(id)
  if (!clip) return null
  if (end === 'head') return clip.start
  return frameToSample(sampleToFrame(clip.start + clip.length - 1, rateOf(doc)), rateOf(doc))
}

function dragFade(context: HandsContext, clip: Clip, end: Fade, down: ReactPointerEvent): void {
  context.store.dispatch(viewActions.select([clip.id]))
  const name = end === 'fadeIn' ? 'Fade in' : 'Fade out'
  begin(context, down, {
    id: clip.id,
    compute: (doc, { by }) => {
      const length = Math.round(clip[end] + (end === 'fadeIn' ? by : -by))
      return shapeClips(doc, { ids: [clip.id], fields: { [end]: length }, label: `${name} ${clip.name}` })
    },
    tell: (doc) => `${name} ${Math.round(1000 * secondsOf(doc.clip.get(clip.id)?.[end] ?? 0))} ms`,
  })
}

function dragGain(context: HandsContext, clip: Clip, down: ReactPointerEvent): void {
  const ids = choose(context, clip, down)
  begin(context, down, {
    id: clip.id,
    compute: (doc, { x }, event) => {
      const gainBy = Math.round(x * GAIN_STEP * (event.shiftKey ? 1 : 10)) / 10
      return shapeClips(doc, { ids, gainBy, label: `Gain of ${clip.name}` })
    },
    tell: (doc) => `${clip.name}: ${(doc.clip.get(clip.id)?.gain ?? 0).toFixed(1)} dB`,
  })
}
