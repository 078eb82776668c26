import {
  frameToSample,
  magnetsOf,
  nearestFrame,
  nearestMagnet,
  type FrameRate,
  type Magnet,
  type ReelDocument,
  type ReelMarks,
} from '@yodel/core'

/** Pixels within which a mark draws a drag to itself. */
const REACH = 6

/** Ctrl and a press open a menu on a Mac, so Cmd does the same there. */
const isFree = (event: Pick<PointerEvent, 'ctrlKey' | 'metaKey'>): boolean => event.ctrlKey || event.metaKey

/** Draws the places of one drag to marks and whole frames, and remembers what it drew the last one to. */
export interface Snapper {
  /** The place that a wanted one is drawn to: the nearest mark in reach, or the nearest frame; with Ctrl (on a Mac Cmd) held where it is. */
  readonly snap: (sample: number, event: Pick<PointerEvent, 'ctrlKey' | 'metaKey'>) => number
  /** What the last place was drawn to, in words that go on after it (`, on a cut`); empty for none. */
  readonly said: () => string
}

/**
 * Makes a snapper for a drag that begins now.
 *
 * @param ignore - Clips that are dragged.
 * @param perPixel - Samples of a pixel down the Sheet.
 */
export function makeSnapper(
  doc: ReelDocument,
  marks: ReelMarks,
  ignore: ReadonlySet<string>,
  rate: FrameRate,
  perPixel: number,
): Snapper {
  const magnets = magnetsOf(doc, marks, ignore)
  const reach = REACH * perPixel
  let on: Magnet | null = null
  return {
    snap: (sample, event) => {
      on = isFree(event) ? null : nearestMagnet(magnets, sample, reach)
      if (on) return on.at
      return isFree(event) ? Math.round(sample) : frameToSample(nearestFrame(sample, rate), rate)
    },
    said: () => {
      if (!on) return ''
      const article = on.what === 'onset' || on.what === 'edge' ? 'an' : 'a'
      return `, on ${article} ${on.what}`
    },
  }
}
