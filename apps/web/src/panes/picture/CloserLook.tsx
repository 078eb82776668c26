import { useEffect, useRef, type PointerEvent, type ReactNode } from 'react'
import { panned, transformOf, WHOLE_PICTURE, zoomed, type Closer } from '../../document/closer.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { closerKeyOf, viewActions } from '../../document/viewSlice.js'
import { followPointer } from '../../ui/followPointer.js'

/**
 * The picture, looked at as closely as is remembered for the selected cue: the wheel comes closer, a drag moves it, a
 * double click shows the whole. While clicks on the picture mean something else, it is whole.
 */
export function CloserLook({ children }: { children: ReactNode }) {
  const dispatch = useAppDispatch()
  const key = useAppSelector(closerKeyOf)
  const kept = useAppSelector((state) => state.view.closers[key])
  const following = useAppSelector((state) => state.view.following !== null)
  const view = useRef<HTMLDivElement>(null)
  const closer = following ? WHOLE_PICTURE : (kept ?? WHOLE_PICTURE)
  const latest = useRef({ closer, key, following })
  latest.current = { closer, key, following }
  const set = (next: Closer): void => void dispatch(viewActions.setCloser({ key, closer: next }))
  useEffect(() => {
    const element = view.current
    // React's wheel listener is passive, and the page would scroll as well.
    const onWheel = (event: WheelEvent): void => {
      const now = latest.current
      if (now.following || !element) return
      event.preventDefault()
      const box = element.getBoundingClientRect()
      const at = { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
      const next = zoomed(now.closer, Math.exp(-event.deltaY / 400), at)
      dispatch(viewActions.setCloser({ key: now.key, closer: next }))
    }
    element?.addEventListener('wheel', onWheel, { passive: false })
    return () => element?.removeEventListener('wheel', onWheel)
  }, [dispatch])
  const onPointerDown = (down: PointerEvent): void => {
    const box = view.current?.getBoundingClientRect()
    if (!box || closer.times === 1) return
    followPointer(down, {
      onMove: (event) =>
        set(
          panned(
            closer,
            (event.clientX - down.clientX) / box.width,
            (event.clientY - down.clientY) / box.height,
          ),
        ),
      onCancel: () => set(closer),
    })
  }
  return (
    <div
      ref={view}
      className={`absolute inset-0 touch-none overflow-hidden ${closer.times > 1 ? 'cursor-grab' : ''}`}
      onPointerDown={onPointerDown}
      onDoubleClick={() => set(WHOLE_PICTURE)}
      data-closer={closer.times.toFixed(2)}
    >
      <div
        className="size-full origin-top-left"
        style={closer.times > 1 ? { transform: transformOf(closer) } : {}}
      >
        {children}
      </div>
      {closer.times > 1 && (
        <span className="absolute right-1 bottom-1 rounded-[3px] bg-[#0b1012]/80 px-1 font-mono text-[11px] text-[#e8ece6]">
          {closer.times.toFixed(1)} ×
        </span>
      )}
    </div>
  )
}
