import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { useAppDispatch, useAppSelector } from '../../app/store.js'
import { Button, Kbd } from '../../ui/Button.js'
import type { SheetAction } from './sheetActions.js'
import { viewActions } from './viewSlice.js'

/** The list of all keys. */
export function KeyHelp({ actions }: { actions: readonly SheetAction[] }) {
  const dispatch = useAppDispatch()
  const open = useAppSelector((state) => state.view.help)
  const close = (): void => void dispatch(viewActions.setHelp(false))
  return (
    <Dialog open={open} onClose={close} className="relative z-50">
      <div className="fixed inset-0 bg-ink/30" aria-hidden />
      <div className="fixed inset-0 grid place-items-center p-6">
        <DialogPanel className="max-h-full w-[820px] overflow-y-auto rounded-[6px] border border-line bg-card p-5">
          <DialogTitle className="text-[16px] font-bold">Keys</DialogTitle>
          <dl className="mt-3 grid grid-cols-[max-content_1fr_max-content_1fr] items-baseline gap-x-3 gap-y-1 text-[12px]">
            {actions.map((action) => (
              <div key={action.keys} className="contents">
                <dt className="text-right">
                  <Kbd>{action.keys}</Kbd>
                </dt>
                <dd>{action.what}</dd>
              </div>
            ))}
          </dl>
          <p className="mt-3 text-ink-2">
            On the Sheet: drag the paper or turn the wheel to move time; Ctrl and wheel to zoom; drag a sound to move it (whole frames, free with Ctrl), its ends to trim it, a
            search result onto the Sheet by Try and Keep.
          </p>
          <Button look="strong" className="mt-4" onClick={close}>
            Close
          </Button>
        </DialogPanel>
      </div>
    </Dialog>
  )
}
