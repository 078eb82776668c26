import type { KeyboardEvent, ReactNode } from 'react'
import { heldWidth, keepWidth, SMALL_PICTURE } from '../../document/pictureWidth.js'
import { useAppDispatch } from '../../document/store.js'
import { viewActions } from '../../document/viewSlice.js'
import { followPointer } from '../../ui/followPointer.js'
import { PictureView } from './PictureView.js'
import { TransportBar } from './TransportBar.js'
import { usePictureWidth } from './usePictureWidth.js'

const STEP = 24

/** The column at the left: picture, transport and what stands under them; its edge is drawn to make the picture larger. */
export function PictureColumn({ children }: { children: ReactNode }) {
  const dispatch = useAppDispatch()
  const { width, page } = usePictureWidth()
  const set = (wished: number): void => {
    const held = heldWidth(wished, page)
    keepWidth(held)
    dispatch(viewActions.setPictureWidth(held))
  }
  const onKeyDown = (event: KeyboardEvent): void => {
    const step = { ArrowRight: STEP, ArrowLeft: -STEP }[event.key]
    if (step === undefined) return
    event.stopPropagation()
    set(width + step)
  }
  return (
    <aside
      className="relative flex shrink-0 flex-col border-r border-line"
      style={{ width }}
      aria-label="Picture and selection"
    >
      <PictureView />
      <TransportBar />
      {children}
      <div
        role="separator"
        aria-orientation="vertical"
        aria-label="Width of the picture"
        aria-valuenow={width}
        aria-valuemin={SMALL_PICTURE}
        aria-valuemax={heldWidth(page, page)}
        tabIndex={0}
        title="Drag: a larger picture. Double click: as it was first."
        className="absolute inset-y-0 -right-[4px] z-20 w-[7px] cursor-col-resize touch-none hover:bg-focus/40 focus-visible:bg-focus/40"
        onKeyDown={onKeyDown}
        onDoubleClick={() => set(SMALL_PICTURE)}
        onPointerDown={(down) =>
          followPointer(down, {
            onMove: (event) => set(width + event.clientX - down.clientX),
            onCancel: () => set(width),
          })
        }
      />
    </aside>
  )
}
