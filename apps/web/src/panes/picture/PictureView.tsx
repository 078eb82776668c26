import { currentCut, FRAME_RATES, sameSpeed, type Picture } from '@yodel/core'
import { api } from '../../api/api.js'
import { useAppSelector } from '../../document/store.js'
import { usePicture, useReel } from '../../session/session.js'
import { useJob } from '../../session/useJob.js'
import { Button } from '../../ui/Button.js'
import { PictureChooser } from './PictureChooser.js'
import { PictureFrames } from './PictureFrames.js'
import { RateMismatch } from './RateMismatch.js'
import { TimecodeMismatch } from './TimecodeMismatch.js'

/** The picture at the gate; while there is none, the way to bring one in. */
export function PictureView() {
  const picture = usePicture()
  const reel = useReel()
  const cut = useAppSelector((state) => currentCut(state.document.doc))
  if (reel.pictureId === null) return <PictureChooser />
  if (!picture) return <Box>Looking for the picture …</Box>
  if (picture.state !== 'ready' && picture.made === 0) return <Preparing picture={picture} />
  const mismatch = !sameSpeed(FRAME_RATES[picture.rate], FRAME_RATES[reel.rate])
  return (
    <>
      {mismatch && <RateMismatch picture={picture} />}
      {cut && <TimecodeMismatch picture={picture} cut={cut} aside />}
      <PictureFrames key={picture.id} pictureId={picture.id} />
      {picture.state !== 'ready' && <UnderWay picture={picture} />}
      {picture.message && <p className="px-3 py-1 text-[11px] text-ink-2">{picture.message}</p>}
    </>
  )
}

/** How far a picture is on its way; where that broke off, why, and the ways to go on. */
function Preparing({ picture: { name, state, message, jobId } }: { picture: Picture }) {
  const job = useJob(jobId)
  const [again] = api.usePauseJobMutation()
  const brokeOff = state === 'failed' || job?.state === 'failed' || job?.state === 'cancelled'
  if (brokeOff)
    return (
      <>
        <div className="flex items-baseline gap-3 border-b border-hair px-4 py-2">
          <b className="flex-1 font-semibold text-gate">{name} could not be prepared</b>
          {jobId !== null && (
            <Button look="strong" onClick={() => void again({ id: jobId, pause: false })}>
              Try again
            </Button>
          )}
        </div>
        <PictureChooser problem={message || job?.message || ''} />
      </>
    )
  return (
    <Box>
      <b className="font-semibold">Preparing {name}</b>
      <progress className="mt-2 h-1.5 w-full" value={job?.progress ?? 0} max={1} aria-label="Progress" />
      <span className="mt-1 block text-[11.5px]">{job?.message ?? 'Waiting for its turn'}</span>
    </Box>
  )
}

/** How far a picture is that can be looked at already. */
function UnderWay({ picture: { name, made, frames, jobId } }: { picture: Picture }) {
  const job = useJob(jobId)
  const what = job?.message || 'Making frames quick to reach'
  return (
    <p className="flex items-center gap-2 px-3 py-1 text-[11px] text-ink-2" data-preparing>
      <progress className="h-1 w-16" value={job?.progress ?? 0} max={1} aria-label="Progress" />
      {made < frames
        ? `${made.toLocaleString('en')} of ${frames.toLocaleString('en')} frames of ${name} are ready`
        : what}
    </p>
  )
}

function Box({ children }: { children: React.ReactNode }) {
  return (
    <div className="flex aspect-video w-full flex-col justify-center bg-paper-3 p-5 text-ink-2">
      {children}
    </div>
  )
}
