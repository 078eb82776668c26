import { useBlocker } from 'react-router'
import { useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Overlay } from '../../ui/Overlay.js'

/** Asks whoever leaves a reel whose last changes are nowhere but in this page. Its own pages are no leaving. */
export function LeavingUnkept({ reelId }: { reelId: string }) {
  const { pending, aside, disk } = useAppSelector((state) => state.document)
  const unkept = disk === 'failed' ? pending.length || aside.length : 0
  const blocker = useBlocker(
    ({ nextLocation: { pathname } }) => unkept > 0 && !`${pathname}/`.startsWith(`/reels/${reelId}/`),
  )
  if (blocker.state !== 'blocked') return null
  return (
    <Overlay open onClose={() => blocker.reset()} className="w-[380px] p-4">
      <h2 className="font-bold">Leave and lose {unkept === 1 ? 'a change' : `${unkept} changes`}?</h2>
      <p className="mt-1 text-ink-2">
        The server has not taken what you did last, and this browser can’t write to its own disk. It is only
        in this page.
      </p>
      <div className="mt-3 flex gap-2">
        <Button look="strong" onClick={() => blocker.reset()}>
          Stay
        </Button>
        <Button onClick={() => blocker.proceed()}>Leave and lose {unkept === 1 ? 'it' : 'them'}</Button>
      </div>
    </Overlay>
  )
}
