import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { useSession } from '../../session/session.js'
import { viewActions } from '../../document/viewSlice.js'

/** Over the picture while a track is to follow a source in it: a click says where the source is at this moment. */
export function FollowClicks() {
  const dispatch = useAppDispatch()
  const { transport } = useSession()
  const following = useAppSelector((state) => state.view.following)
  const name = useAppSelector((state) => state.document.doc.track.get(following?.trackId ?? '')?.name)
  if (!following) return null
  const { seen } = following
  return (
    <div
      className="absolute inset-0 cursor-crosshair"
      data-follow
      onPointerDown={(event) => {
        const box = event.currentTarget.getBoundingClientRect()
        const x = Math.max(0, Math.min(1, (event.clientX - box.left) / box.width))
        const at = Math.round(transport.sample)
        dispatch(
          viewActions.setFollowing({
            ...following,
            seen: [...seen.filter(([moment]) => moment !== at), [at, x]],
          }),
        )
      }}
    >
      {seen.map(([at, x]) => (
        <div
          key={at}
          className="pointer-events-none absolute inset-y-0 border-l border-dashed border-gate"
          style={{ left: `${x * 100}%` }}
        />
      ))}
      <p className="pointer-events-none absolute inset-x-0 bottom-0 bg-[#0b1012]/85 px-2 py-1 text-[12px] text-[#e8ece6]">
        {name} follows: click where its source is, at two moments or more ({seen.length} so far). Enter keeps
        it, Esc leaves.
      </p>
    </div>
  )
}
