import { FRAME_RATES, sameSpeed } from '@yodel/core'
import { usePicture, useReel } from '../../session/session.js'
import { useJob } from '../../session/useJob.js'
import { PictureChooser } from './PictureChooser.js'
import { PictureFrames } from './PictureFrames.js'
import { RateMismatch } from './RateMismatch.js'

/** The picture at the gate; while there is none, the way to bring one in. */
export function PictureView() {
  const picture = usePicture()
  const reel = useReel()
  if (reel.pictureId === null) return <PictureChooser />
  if (!picture) return <Box>Looking for the picture …</Box>
  if (picture.state === 'failed') return <PictureChooser problem={picture.message} />
  if (picture.state === 'waiting') return <Preparing jobId={picture.jobId} name={picture.name} />
  const mismatch = !sameSpeed(FRAME_RATES[picture.rate], FRAME_RATES[reel.rate])
  return (
    <>
      {mismatch && <RateMismatch picture={picture} />}
      <PictureFrames key={picture.id} pictureId={picture.id} />
      {picture.message && <p className="px-3 py-1 text-[11px] text-ink-2">{picture.message}</p>}
    </>
  )
}

function Preparing({ jobId, name }: { jobId: string | null; name: string }) {
  const job = useJob(jobId)
  return (
    <Box>
      <b className="font-semibold">Preparing {name}</b>
      <progress
        className="mt-2 h-1.5 w-full accent-(--gate)"
        value={job?.progress ?? 0}
        max={1}
        aria-label="Progress"
      />
      <span className="mt-1 block text-[11.5px]">
        {job?.state === 'failed' ? job.message : (job?.message ?? 'Waiting for its turn')}
      </span>
    </Box>
  )
}

function Box({ children }: { children: React.ReactNode }) {
  return (
    <div className="flex aspect-video w-full flex-col justify-center bg-paper-3 p-5 text-ink-2">
      {children}
    </div>
  )
}
