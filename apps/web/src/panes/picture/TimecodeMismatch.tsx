import { editCut, formatTimecode, FRAME_RATES, offsetByTimecode, type Cut, type Picture } from '@yodel/core'
import { edit } from '../../document/edit.js'
import { useAppDispatch } from '../../document/store.js'
import { useReel } from '../../session/session.js'
import { Button } from '../../ui/Button.js'

/**
 * Says by how much the timecode in a movie's file disagrees with where it lies, and offers to move it there; nothing where they agree.
 *
 * @param aside - Only where it would lie in the reel: a camera's time of day troubles nobody.
 */
export function TimecodeMismatch({ picture, cut, aside }: { picture: Picture; cut: Cut; aside?: boolean }) {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const offset = offsetByTimecode(picture, reel)
  if (offset === null || offset === cut.offset) return null
  const rate = FRAME_RATES[reel.rate]
  const isInReel = offset > -picture.frames && offset < reel.length
  if (!isInReel && aside) return null
  const off = Math.abs(offset - cut.offset)
  const much = off < 2 * rate.nominal ? `${off} ${off === 1 ? 'frame' : 'frames'}` : formatTimecode(off, rate)
  return (
    <div role="alert" className="border-b border-line bg-card px-3 py-2 text-[12px]">
      <p>
        The file’s timecode begins at <span className="font-mono">{picture.start}</span>,{' '}
        <b className="font-mono text-gate">{much}</b> {offset < cut.offset ? 'before' : 'after'} where the
        picture lies.
      </p>
      {isInReel && (
        <Button
          className="mt-1"
          onClick={() => dispatch(edit((doc) => editCut(doc, { id: cut.id, fields: { offset } })))}
        >
          Move the picture to its timecode
        </Button>
      )}
    </div>
  )
}
