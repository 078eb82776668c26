import {
  apply,
  FRAME_RATES,
  frameToSample,
  moveClips,
  nearestFrame,
  rateOf,
  sampleToFrame,
  trimClip,
  type Change,
  type Clip,
  type Frames,
  type ReelDocument,
  type Result,
} from '@yodel/core'
import { useMemo, useState, type PointerEvent as ReactPointerEvent } from 'react'
import { useAppDispatch, useAppStore } from '../app/store.js'
import { edit } from '../features/reel/edits.js'
import { useReel, useSession } from '../features/reel/session.js'
import { viewActions } from '../features/reel/viewSlice.js'

/** What a drag shows while it lasts. */
export interface Dragging {
  /** The document as it would be on release. */
  readonly doc: ReelDocument
  readonly label: string
  readonly refused: boolean
}

/** Handlers that clips are given; the same ones as long as the reel is open, so that a drag draws only what it moves. */
export interface ClipHands {
  readonly bindBody: (clip: Clip) => Record<string, unknown>
  readonly bindTrim: (clip: Clip, end: 'head' | 'tail') => Record<string, unknown>
}

/** The handlers, and what goes on. */
export interface ClipGesture {
  readonly hands: ClipHands
  readonly dragging: Dragging | null
  /** Clip whose wish was refused just now. */
  readonly refused: string | null
}

const THRESHOLD = 3

/**
 * Moving and trimming clips by pointer. Each move of the pointer computes the edit anew from the document at the
 * gesture's start; release commits one change, Esc leaves everything as it was. Whole frames unless Ctrl is held.
 * While a clip is moved the picture follows its sync point; while it is trimmed, the edge.
 *
 * @param trackAt - Id of the track under a horizontal place on the page, or null.
 */
export function useClipGestures(trackAt: (x: number) => string | null): ClipGesture {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const { transport } = useSession()
  const reel = useReel()
  const [dragging, setDragging] = useState<Dragging | null>(null)
  const [refused, setRefused] = useState<string | null>(null)

  const hands = useMemo((): ClipHands => {
    const rate = FRAME_RATES[reel.rate]
    const snapTo = (sample: number, event: PointerEvent): number => (event.ctrlKey ? Math.round(sample) : frameToSample(nearestFrame(sample, rate), rate))

    const begin = (
      down: ReactPointerEvent,
      compute: (doc: ReelDocument, by: number, event: PointerEvent) => Result<Change>,
      follow: (doc: ReelDocument) => number | null,
      id: string,
    ): void => {
      if (down.button !== 0) return
      down.preventDefault()
      down.stopPropagation()
      const { doc } = store.getState().document
      const zoom = store.getState().view.zoom
      const perPixel = frameToSample(1000 as Frames, rate) / 1000 / zoom
      const parked = transport.sample
      const rolling = transport.rolling
      let moved = false
      let last: ((doc: ReelDocument) => Result<Change>) | null = null
      const onMove = (event: PointerEvent): void => {
        const pixels = event.clientY - down.clientY
        if (!moved && Math.hypot(pixels, event.clientX - down.clientX) < THRESHOLD) return
        moved = true
        const wish = (from: ReelDocument): Result<Change> => compute(from, pixels * perPixel, event)
        const change = wish(doc)
        const after = change.ok ? apply(doc, change.value) : change
        if (after.ok) last = wish
        setRefused(after.ok ? null : id)
        setDragging((before) => ({ doc: after.ok ? after.value : (before?.doc ?? doc), label: change.ok ? change.value.label : change.message, refused: !after.ok }))
        const seen = after.ok ? follow(after.value) : null
        if (seen !== null && !rolling) transport.goToSample(seen)
      }
      const end = (): void => {
        window.removeEventListener('pointermove', onMove)
        window.removeEventListener('pointerup', onUp)
        window.removeEventListener('keydown', onKey, true)
        setDragging(null)
        setRefused(null)
      }
      const cancel = (): void => {
        end()
        if (moved && !rolling) transport.goToSample(parked)
      }
      const onUp = (): void => {
        end()
        if (moved && last) dispatch(edit(last))
      }
      const onKey = (event: KeyboardEvent): void => {
        if (event.key !== 'Escape') return
        event.stopPropagation()
        cancel()
      }
      window.addEventListener('pointermove', onMove)
      window.addEventListener('pointerup', onUp)
      window.addEventListener('keydown', onKey, true)
    }

    const bindBody = (clip: Clip): Record<string, unknown> => ({
      onPointerDown: (down: ReactPointerEvent) => {
        const selected = store.getState().view.selected
        if (down.shiftKey || down.metaKey) dispatch(viewActions.toggleSelected(clip.id))
        else if (!selected.includes(clip.id)) dispatch(viewActions.select([clip.id]))
        const ids = selected.includes(clip.id) ? selected.filter((id) => store.getState().document.doc.clip[id]) : [clip.id]
        const syncAt = clip.start + clip.sync - clip.offset
        const compute = (doc: ReelDocument, by: number, event: PointerEvent): Result<Change> => {
          const to = Math.max(clip.sync - clip.offset, snapTo(syncAt + by, event))
          const trackId = ids.length === 1 ? trackAt(event.clientX) : null
          return moveClips(doc, { ids, by: to - syncAt, ...(trackId && trackId !== clip.trackId ? { trackId } : {}) })
        }
        begin(down, compute, (doc) => syncOf(doc, clip.id), clip.id)
      },
      onFocus: () => {
        if (!store.getState().view.selected.includes(clip.id)) dispatch(viewActions.select([clip.id]))
      },
    })

    const bindTrim = (clip: Clip, end: 'head' | 'tail'): Record<string, unknown> => ({
      onPointerDown: (down: ReactPointerEvent) => {
        dispatch(viewActions.select([clip.id]))
        const edge = end === 'head' ? clip.start : clip.start + clip.length
        const compute = (doc: ReelDocument, by: number, event: PointerEvent): Result<Change> => trimClip(doc, { id: clip.id, end, to: snapTo(edge + by, event) })
        begin(down, compute, (doc) => edgeOf(doc, clip.id, end), clip.id)
      },
    })
    return { bindBody, bindTrim }
  }, [dispatch, store, transport, reel.rate, trackAt])
  return { hands, dragging, refused }
}

function syncOf(doc: ReelDocument, id: string): number | null {
  const clip = doc.clip[id]
  return clip ? clip.start + clip.sync - clip.offset : null
}

function edgeOf(doc: ReelDocument, id: string, end: 'head' | 'tail'): number | null {
  const clip = doc.clip[id]
  if (!clip) return null
  if (end === 'head') return clip.start
  // The last frame in which it sounds.
  return frameToSample(sampleToFrame(clip.start + clip.length - 1, rateOf(doc)), rateOf(doc))
}
