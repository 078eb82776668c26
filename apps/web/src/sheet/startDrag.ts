import { apply, clipsByTrack, type Change, type ReelDocument, type Result } from '@yodel/core'
import type { PointerEvent as ReactPointerEvent } from 'react'
import { flushSync } from 'react-dom'
import type { AppDispatch, AppStore } from '../document/store.js'
import { edit } from '../document/edit.js'
import { followPointer } from '../ui/followPointer.js'
import type { Transport } from '../session/Transport.js'

/** What a drag shows while it lasts. */
export interface Dragging {
  /** The document as it would be on release. */
  readonly doc: ReelDocument
  readonly label: string
  readonly refused: boolean
}

/** What a drag does with the document it began on. */
export interface DragPlan {
  /** Id of what is dragged. */
  readonly id: string
  /** The edit for a way of the pointer: `x` in pixels, `y` in pixels and in samples. */
  readonly compute: (
    doc: ReelDocument,
    way: { x: number; y: number; by: number },
    event: PointerEvent,
  ) => Result<Change>
  /** Sample that the picture shows meanwhile; null leaves it where it is. */
  readonly follow?: (doc: ReelDocument) => number | null
  /** Said beside the gate; the edit's own label when left out. */
  readonly tell?: (doc: ReelDocument) => string
  /** A press that never moved. */
  readonly onClick?: (event: PointerEvent) => void
}

/**
 * Follows the pointer from a press to its release. Each move computes the edit anew from the document at the beginning;
 * release commits one change, Esc leaves everything as it was.
 *
 * @param perPixel - Samples of a pixel down the Sheet.
 */
export function startDrag(
  down: ReactPointerEvent,
  plan: DragPlan,
  place: {
    dispatch: AppDispatch
    store: AppStore
    transport: Transport
    perPixel: number
    show: (dragging: Dragging | null, refused: string | null) => void
  },
): void {
  if (down.button !== 0) return
  down.preventDefault()
  down.stopPropagation()
  const { dispatch, store, transport, perPixel, show } = place
  const { doc } = store.getState().document
  // Gathered now, so that each move of the pointer only has to carry it on.
  clipsByTrack(doc)
  const parked = transport.sample
  const rolling = transport.rolling
  let last: ((doc: ReelDocument) => Result<Change>) | null = null
  let shown: ReelDocument = doc
  const onMove = (event: PointerEvent): void => {
    const x = event.clientX - down.clientX
    const y = event.clientY - down.clientY
    const wish = (from: ReelDocument): Result<Change> => plan.compute(from, { x, y, by: y * perPixel }, event)
    const change = wish(doc)
    const after = change.ok ? apply(doc, change.value) : change
    if (after.ok) {
      last = wish
      shown = after.value
    }
    const label = !change.ok
      ? change.message
      : after.ok && plan.tell
        ? plan.tell(after.value)
        : change.value.label
    const seen = after.ok ? (plan.follow?.(after.value) ?? null) : null
    // The browser hands moves out right before it paints: drawn now, they are in that very paint, and not in the next one.
    flushSync(() => {
      show({ doc: shown, label, refused: !after.ok }, after.ok ? null : plan.id)
      if (seen !== null && !rolling) transport.goToSample(seen)
    })
  }
  const end = (): void => show(null, null)
  followPointer(down, {
    onMove,
    onDrop: () => {
      end()
      if (last) dispatch(edit(last))
    },
    onClick: (event) => {
      end()
      plan.onClick?.(event)
    },
    onCancel: () => {
      end()
      if (!rolling) transport.goToSample(parked)
    },
  })
}
