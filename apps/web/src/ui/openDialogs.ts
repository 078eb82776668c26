import { useEffect } from 'react'

let open = 0

/** Whether anything has the screen to itself. */
export const isDialogOpen = (): boolean => open > 0

/** Counts a dialog while it is open. */
export function useCountedDialog(isOpen: boolean): void {
  useEffect(() => {
    if (!isOpen) return
    open++
    return () => void open--
  }, [isOpen])
}
