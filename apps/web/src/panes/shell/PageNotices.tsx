import { useCallback } from 'react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { viewActions } from '../../document/viewSlice.js'
import { Notices, type Notice } from '../../ui/Notices.js'

/** What was told on this page and has not been read yet. */
export function PageNotices() {
  const dispatch = useAppDispatch()
  const notices = useAppSelector((state) => state.view.notices)
  const close = useCallback(({ id }: Notice) => void dispatch(viewActions.dismiss(id)), [dispatch])
  return <Notices notices={notices} onClose={close} />
}
