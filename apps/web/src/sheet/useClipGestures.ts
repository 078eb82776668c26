import {
  frameOfSample,
  samplesPerFrame,
  formatTimecode,
  FRAME_RATES,
  frameToSample,
  magnetsOf,
  moveClips,
  nearestFrame,
  nearestMagnet,
  neighbourAt,
  rateOf,
  rollBoundary,
  sampleToFrame,
  shapeClips,
  slipClip,
  syncPlace,
  trimClip,
  withGroups,
  type Clip,
  type Magnet,
  type ReelDocument,
} from '@yodel/core'
import { useMemo, useRef, useState, type PointerEvent as ReactPointerEvent } from 'react'
import { useAppDispatch, useAppStore } from '../document/store.js'
import { useMarks, useReel, useSession } from '../session/session.js'
import { viewActions } from '../document/viewSlice.js'
import { startDrag, type Dragging, type DragPlan } from './startDrag.js'

/** Handlers that clips are given; the same ones as long as the reel is open, so that a drag draws only what it moves. */
export interface ClipHands {
  readonly bindBody: (clip: Clip) => Record<string, unknown>
  readonly bindTrim: (clip: Clip, end: 'head' | 'tail') => Record<string, unknown>
  readonly bindFade: (clip: Clip, end: 'fadeIn' | 'fadeOut') => Record<string, unknown>
  readonly bindGain: (clip: Clip) => Record<string, unknown>
}

/** The handlers, and what goes on. */
export interface ClipGesture {
  readonly hands: ClipHands
  readonly dragging: Dragging | null
  /** Clip whose wish was refused just now. */
  readonly refused: string | null
}

/** Pixels within which a mark draws a drag to itself. */
const REACH = 6
/** Decibels of a pixel when the gain is dragged; a tenth of it with Shift. */
const GAIN_STEP = 0.25

/**
 * Moving, trimming and shaping clips by pointer. Positions are whole frames, or the marks near them; any place with Ctrl held.
 * With Alt a drag of the body moves the sound inside its clip, and a drag of an end rolls the boundary with the neighbour;
 * with Shift held while moving, what overlaps a neighbour meets it in a crossfade.
 *
 * @param trackAt - Id of the track under a horizontal place on the page, or null.
 */
export function useClipGestures(trackAt: (x: number) => string | null): ClipGesture {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const { transport } = useSession()
  const reel = useReel()
  const known = useMarks()
  const marks = useRef(known)
  marks.current = known
  const [dragging, setDragging] = useState<Dragging | null>(null)
  const [refused, setRefused] = useState<string | null>(null)

  const hands = useMemo((): ClipHands => {
    const rate = FRAME_RATES[reel.rate]
    const perPixel = (): number => samplesPerFrame(rate) / store.getState().view.zoom
    const begin = (down: ReactPointerEvent, plan: DragPlan): void => {
      const show = (next: Dragging | null, id: string | null): void => {
        setDragging(next)
        setRefused(id)
      }
      startDrag(down, plan, { dispatch, store, transport, perPixel: perPixel(), show })
    }
    /** Draws places to marks and frames; remembers what a place was drawn to. */
    const snapper = (ignore: ReadonlySet<string>) => {
      const magnets = magnetsOf(store.getState().document.doc, marks.current, ignore)
      const reach = REACH * perPixel()
      let on: Magnet | null = null
      return {
        snap: (sample: number, event: PointerEvent): number => {
          on = event.ctrlKey ? null : nearestMagnet(magnets, sample, reach)
          return (
            on?.at ?? (event.ctrlKey ? Math.round(sample) : frameToSample(nearestFrame(sample, rate), rate))
          )
        },
        said: (): string =>
          on ? `, on ${on.what === 'onset' || on.what === 'edge' ? 'an' : 'a'} ${on.what}` : '',
      }
    }
    const timecode = (sample: number): string =>
      formatTimecode(reel.firstFrame + sampleToFrame(Math.max(0, sample), rate), rate)
    const offsetOf = (samples: number): string => {
      const frames = frameOfSample(samples, rate)
      return `${samples < 0 ? '−' : '+'}${Math.abs(frames).toFixed(Number.isInteger(Math.round(frames * 100) / 100) ? 0 : 2)} fr`
    }
    const choose = (clip: Clip, event: ReactPointerEvent): string[] => {
      const { selected } = store.getState().view
      const { doc } = store.getState().document
      if (event.shiftKey || event.metaKey) dispatch(viewActions.toggleSelected(clip.id))
      else if (!selected.includes(clip.id)) dispatch(viewActions.select(withGroups(doc, [clip.id])))
      return store.getState().view.selected.filter((id) => doc.clip.get(id))
    }

    const bindBody = (clip: Clip): Record<string, unknown> => ({
      onPointerDown: (down: ReactPointerEvent) => {
        const chosen = choose(clip, down)
        const ids = chosen.includes(clip.id) ? chosen : [clip.id]
        if (down.altKey)
          return begin(down, {
            id: clip.id,
            compute: (doc, { by }) => slipClip(doc, { id: clip.id, by: Math.round(by) }),
            tell: (doc) =>
              `${clip.name} slipped ${offsetOf(clip.offset - (doc.clip.get(clip.id)?.offset ?? 0))}`,
          })
        const syncAt = syncPlace(clip)
        const { snap, said } = snapper(new Set(ids))
        begin(down, {
          id: clip.id,
          compute: (doc, { by }, event) => {
            const to = Math.max(clip.sync - clip.offset, snap(syncAt + by, event))
            const trackId = ids.length === 1 ? trackAt(event.clientX) : null
            return moveClips(doc, {
              ids,
              by: to - syncAt,
              meet: event.shiftKey,
              ...(trackId && trackId !== clip.trackId ? { trackId } : {}),
            })
          },
          follow: (doc) => placeOf(doc, clip.id),
          tell: (doc) =>
            `${timecode(placeOf(doc, clip.id) ?? 0)}  ${offsetOf((placeOf(doc, clip.id) ?? 0) - syncAt)}${said()}`,
        })
      },
      onFocus: () => {
        if (!store.getState().view.selected.includes(clip.id))
          dispatch(viewActions.select(withGroups(store.getState().document.doc, [clip.id])))
      },
    })

    const bindTrim = (clip: Clip, end: 'head' | 'tail'): Record<string, unknown> => ({
      onPointerDown: (down: ReactPointerEvent) => {
        dispatch(viewActions.select([clip.id]))
        const edge = end === 'head' ? clip.start : clip.start + clip.length
        const { snap, said } = snapper(new Set([clip.id]))
        const other = down.altKey ? neighbourAt(store.getState().document.doc, clip, end) : null
        const [first, second] = end === 'head' ? [other, clip] : [clip, other]
        const moved = (doc: ReelDocument): number => {
          const now = doc.clip.get(clip.id) ?? clip
          return (end === 'head' ? now.start : now.start + now.length) - edge
        }
        begin(down, {
          id: clip.id,
          compute: (doc, { by }, event) =>
            first && second
              ? rollBoundary(doc, {
                  firstId: first.id,
                  secondId: second.id,
                  to: snap(second.start + by, event),
                })
              : trimClip(doc, { id: clip.id, end, to: snap(edge + by, event) }),
          follow: (doc) => edgeOf(doc, clip.id, end),
          tell: (doc) => `${timecode(edge + moved(doc))}  ${offsetOf(moved(doc))}${said()}`,
        })
      },
    })

    const bindFade = (clip: Clip, end: 'fadeIn' | 'fadeOut'): Record<string, unknown> => ({
      onPointerDown: (down: ReactPointerEvent) => {
        dispatch(viewActions.select([clip.id]))
        begin(down, {
          id: clip.id,
          compute: (doc, { by }) =>
            shapeClips(doc, {
              ids: [clip.id],
              fields: { [end]: Math.round(clip[end] + (end === 'fadeIn' ? by : -by)) },
              label: `${end === 'fadeIn' ? 'Fade in' : 'Fade out'} ${clip.name}`,
            }),
          tell: (doc) =>
            `${end === 'fadeIn' ? 'Fade in' : 'Fade out'} ${Math.round((doc.clip.get(clip.id)?.[end] ?? 0) / 48)} ms`,
        })
      },
    })

    const bindGain = (clip: Clip): Record<string, unknown> => ({
      onPointerDown: (down: ReactPointerEvent) => {
        const chosen = choose(clip, down)
        const ids = chosen.includes(clip.id) ? chosen : [clip.id]
        begin(down, {
          id: clip.id,
          compute: (doc, { x }, event) =>
            shapeClips(doc, {
              ids,
              gainBy: Math.round(x * GAIN_STEP * (event.shiftKey ? 1 : 10)) / 10,
              label: `Gain of ${clip.name}`,
            }),
          tell: (doc) => `${clip.name}: ${(doc.clip.get(clip.id)?.gain ?? 0).toFixed(1)} dB`,
        })
      },
    })
    return { bindBody, bindTrim, bindFade, bindGain }
  }, [dispatch, store, transport, reel.rate, reel.firstFrame, trackAt])
  return { hands, dragging, refused }
}

function placeOf(doc: ReelDocument, id: string): number | null {
  const clip = doc.clip.get(id)
  return clip ? syncPlace(clip) : null
}

function edgeOf(doc: ReelDocument, id: string, end: 'head' | 'tail'): number | null {
  const clip = doc.clip.get(id)
  if (!clip) return null
  if (end === 'head') return clip.start
  // The last frame in which it sounds.
  return frameToSample(sampleToFrame(clip.start + clip.length - 1, rateOf(doc)), rateOf(doc))
}
