import { FRAME_RATES, pictureFrameAt, sameSpeed } from '@yodel/core'
import { useEffect, useRef, useState } from 'react'
import { api } from '../../app/api.js'
import { PictureDecoder } from '../../picture/PictureDecoder.js'
import { usePicture, useReel, useSession } from '../reel/session.js'
import { PictureChooser } from './PictureChooser.js'

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
      {mismatch && (
        <p role="alert" className="bg-gate px-3 py-1.5 text-[12px] font-semibold text-on-gate">
          {picture.name} runs at {FRAME_RATES[picture.rate].label}, the reel at {FRAME_RATES[reel.rate].label}. It is shown in real time at its own rate, so reel frames and movie
          frames drift apart. Export the movie at the reel’s rate, or make a reel at the movie’s.
        </p>
      )}
      <Frames key={picture.id} pictureId={picture.id} />
      {picture.message && <p className="px-3 py-1 text-[11px] text-ink-2">{picture.message}</p>}
    </>
  )
}

function Frames({ pictureId }: { pictureId: string }) {
  const { transport } = useSession()
  const reel = useReel()
  const picture = usePicture()
  const canvas = useRef<HTMLCanvasElement>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const movieRate = FRAME_RATES[picture?.rate ?? reel.rate]
  useEffect(() => {
    if (!canvas.current) return
    const element = canvas.current
    const decoder = new PictureDecoder(`/api/pictures/${pictureId}`, element, setProblem)
    decoder.onDrawn = (frame) => {
      element.dataset['frame'] = String(frame)
      setProblem(null)
    }
    let unsubscribe = (): void => undefined
    let closed = false
    decoder.open().then(
      () => {
        if (closed) return
        unsubscribe = transport.subscribe(() => {
          const frame = pictureFrameAt(transport.frame, FRAME_RATES[reel.rate], movieRate)
          if (transport.rolling) decoder.roll(frame)
          else decoder.show(frame)
        })
      },
      (error: unknown) => setProblem(error instanceof Error ? error.message : String(error)),
    )
    return () => {
      closed = true
      unsubscribe()
      decoder.close()
    }
  }, [pictureId, transport, reel.rate, movieRate])
  return (
    <div className="relative aspect-video w-full bg-[#0b1012]">
      <canvas ref={canvas} width={640} height={360} className="size-full" role="img" aria-label="Picture at the gate" data-picture />
      {problem && <p className="absolute inset-x-0 bottom-0 bg-[#0b1012] p-2 text-[12px] text-[#ff9d80]">{problem}</p>}
    </div>
  )
}

function Preparing({ jobId, name }: { jobId: string | null; name: string }) {
  const { data: job } = api.useJobQuery(jobId ?? '', { skip: jobId === null, pollingInterval: 500 })
  return (
    <Box>
      <b className="font-semibold">Preparing {name}</b>
      <progress className="mt-2 h-1.5 w-full accent-(--gate)" value={job?.progress ?? 0} max={1} aria-label="Progress" />
      <span className="mt-1 block text-[11.5px]">{job?.state === 'failed' ? job.message : (job?.message ?? 'Waiting for its turn')}</span>
    </Box>
  )
}

function Box({ children }: { children: React.ReactNode }) {
  return <div className="flex aspect-video w-full flex-col justify-center bg-paper-3 p-5 text-ink-2">{children}</div>
}
