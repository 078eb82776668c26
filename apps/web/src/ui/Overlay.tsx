import { Dialog, DialogPanel } from '@headlessui/react'
import type { ReactNode } from 'react'
import { useCountedDialog } from './openDialogs.js'

/** Something that has the screen to itself until it is closed; Esc and a press beside it close it. @param className - Width and layout of the panel. */
export function Overlay({
  open,
  onClose,
  className = '',
  label,
  children,
}: {
  open: boolean
  onClose: () => void
  className?: string
  /** What it is called where no title stands in it. */
  label?: string
  children: ReactNode
}) {
  useCountedDialog(open)
  return (
    <Dialog
      open={open}
      onClose={onClose}
      className="relative z-50"
      {...(label === undefined ? {} : { 'aria-label': label })}
    >
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel
          className={`max-h-full overflow-y-auto rounded-[6px] border border-line bg-card ${className}`}
        >
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  )
}
