import { useEffect, type RefObject } from 'react'
import { useAppStore } from '../document/store.js'
import { useSession } from '../session/session.js'

/**
 * Keeps the paper where its time is. A browser scrolls to whatever the keyboard goes to, which would part sounds from
 * their timecode; what lies beyond the paper is brought to the gate instead.
 */
export function useStill(frame: RefObject<HTMLElement | null>): void {
  const store = useAppStore()
  const { transport } = useSession()
  useEffect(() => {
    const element = frame.current
    const bring = (): void => {
      const on = document.activeElement
      const { doc } = store.getState().document
      const clip = doc.clip.get(on?.closest('[data-clip]')?.getAttribute('data-clip') ?? '')
      const cue = doc.cue.get(on?.closest('[data-cue]')?.getAttribute('data-cue') ?? '')
      if (transport.rolling) return
      if (clip) transport.goToSample(clip.start + clip.sync - clip.offset)
      else if (cue) transport.goToFrame(cue.in)
    }
    const onScroll = ({ target }: Event): void => {
      if (!(target instanceof HTMLElement) || target.scrollTop === 0) return
      target.scrollTop = 0
      bring()
    }
    element?.addEventListener('scroll', onScroll, { capture: true })
    return () => element?.removeEventListener('scroll', onScroll, { capture: true })
  }, [frame, store, transport])
}
