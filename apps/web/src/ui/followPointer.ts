/** A press from which the pointer is followed. */
export type Press = Pick<PointerEvent, 'clientX' | 'clientY' | 'pointerId'>

/** What happens on the way from a press to its release. */
export interface Follow {
  /** Pixels that the pointer must have gone from the press before it counts as a drag; 3 when left out. */
  readonly threshold?: number
  /** The pointer has moved, beyond the threshold. */
  readonly onMove: (event: PointerEvent) => void
  /** It was let go after a drag. */
  readonly onDrop?: (event: PointerEvent) => void
  /** It was let go without having gone anywhere. */
  readonly onClick?: (event: PointerEvent) => void
  /** Esc was pressed, or the browser took the pointer away (a gesture of its own, a lost touch): as if nothing had been. */
  readonly onCancel?: () => void
}

const THRESHOLD = 3

/** Follows one pointer from its press until it is let go or taken away. Moves of other pointers don't count. */
export function followPointer(press: Press, follow: Follow): void {
  const { threshold = THRESHOLD, onMove, onDrop, onClick, onCancel } = follow
  const ended = new AbortController()
  let dragged = false
  const own = (act: (event: PointerEvent) => void) => (event: PointerEvent) => {
    if (event.pointerId === press.pointerId) act(event)
  }
  const end = (act?: () => void): void => {
    ended.abort()
    act?.()
  }
  const move = own((event) => {
    dragged ||= Math.hypot(event.clientX - press.clientX, event.clientY - press.clientY) >= threshold
    if (dragged) onMove(event)
  })
  const up = own((event) => end(() => (dragged ? onDrop : onClick)?.(event)))
  const key = (event: KeyboardEvent): void => {
    if (event.key !== 'Escape') return
    event.stopPropagation()
    end(onCancel)
  }
  const { signal } = ended
  // What the pointer passes over is not selected as text, not from where something was selected before either.
  globalThis.getSelection?.()?.removeAllRanges()
  window.addEventListener('selectstart', (event) => event.preventDefault(), { signal })
  window.addEventListener('pointermove', move, { signal })
  window.addEventListener('pointerup', up, { signal })
  window.addEventListener(
    'pointercancel',
    own(() => end(onCancel)),
    { signal },
  )
  window.addEventListener('keydown', key, { signal, capture: true })
}
