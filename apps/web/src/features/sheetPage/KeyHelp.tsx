import { DialogTitle } from '@headlessui/react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button, Kbd } from '../../ui/Button.js'
import { Overlay } from '../../ui/Overlay.js'
import { writtenKey } from '../../actions/action.js'
import { REEL_ACTIONS, SHEET_ACTIONS } from '../../actions/sheetActions.js'
import { viewActions } from '../../document/viewSlice.js'

/** The list of all keys. */
export function KeyHelp() {
  const dispatch = useAppDispatch()
  const open = useAppSelector((state) => state.view.help)
  const close = (): void => void dispatch(viewActions.setHelp(false))
  return (
    <Overlay open={open} onClose={close} className="w-[820px] overflow-y-auto p-5">
      <DialogTitle className="text-[16px] font-bold">Keys</DialogTitle>
      <dl className="mt-3 columns-2 gap-x-6 text-[12px]">
        {[...SHEET_ACTIONS, ...REEL_ACTIONS].map((action) => (
          <div
            key={writtenKey(action)}
            className="grid break-inside-avoid grid-cols-[96px_1fr] items-baseline gap-x-3 py-[3px]"
          >
            <dt className="text-right">
              <Kbd>{writtenKey(action)}</Kbd>
            </dt>
            <dd>{action.what}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-3 text-ink-2">
        A cue’s key, held while rolling, gives the cue its length. Drag the paper or turn the wheel to move
        time; Ctrl and wheel to zoom; drag a sound to move it (whole frames, free with Ctrl), its ends to trim
        it (with Alt the boundary, or the sound inside), the squares on a selected one for its fades, the
        round handle for its gain. With Shift, a drag over the paper selects what it touches. A search result
        can be dragged onto a track.
      </p>
      <Button look="strong" className="mt-4" onClick={close}>
        Close
      </Button>
    </Overlay>
  )
}
