import { frames, FRAME_RATES, pictureFrameAt, sameSpeed } from '@yodel/core'
import { useEffect, useRef, useState } from 'react'
import { PictureDecoder } from '../../picture/PictureDecoder.js'
import { showElsewhere } from '../../picture/otherWindow.js'
import { usePicture, usePictureOffset, useReel, useSession } from '../../session/session.js'
import { FollowClicks } from './FollowClicks.js'

/** The frame of the picture that stands at the gate, drawn the moment it is decoded; a window of its own is told, too. */
export function PictureFrames({ pictureId }: { pictureId: string }) {
  const { transport } = useSession()
  const reel = useReel()
  const picture = usePicture()
  const offset = usePictureOffset()
  const canvas = useRef<HTMLCanvasElement>(null)
  const decoding = useRef<PictureDecoder | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [missing, setMissing] = useState(false)
  const made = picture?.made ?? 0
  const grows = picture?.state !== 'ready'
  const movieRate = FRAME_RATES[picture?.rate ?? reel.rate]
  const place = useRef(offset)
  place.current = offset
  useEffect(() => {
    if (!canvas.current) return
    const element = canvas.current
    const decoder = new PictureDecoder(`/api/pictures/${pictureId}`, element, setProblem)
    decoding.current = decoder
    decoder.onMissing = () => {
      delete element.dataset['frame']
      transport.seen = null
      setMissing(true)
    }
    decoder.onDrawn = (frame) => {
      setMissing(false)
      element.dataset['frame'] = String(frame)
      transport.seen = sameSpeed(movieRate, FRAME_RATES[reel.rate]) ? frames(frame + place.current) : null
      setProblem(null)
    }
    let unsubscribe = (): void => undefined
    let closed = false
    decoder.open().then(
      () => {
        if (closed) return
        unsubscribe = transport.subscribe(() => {
          const frame = pictureFrameAt(transport.frame - place.current, FRAME_RATES[reel.rate], movieRate)
          if (transport.rolling) decoder.roll(frame)
          else decoder.show(frame)
          showElsewhere({ pictureId, frame, rolling: transport.rolling })
        })
      },
      (error: unknown) => setProblem(error instanceof Error ? error.message : String(error)),
    )
    return () => {
      closed = true
      transport.seen = null
      unsubscribe()
      decoding.current = null
      decoder.close()
    }
    // Another offset is seen at the next movement; it is no reason to decode anew.
  }, [pictureId, transport, reel.rate, movieRate])
  useEffect(() => transport.announce(), [offset, transport])
  useEffect(() => {
    const decoder = decoding.current
    if (!decoder) return
    decoder.grows = grows
    decoder.grow().catch(() => undefined)
  }, [made, grows])
  return (
    <div className="relative aspect-video w-full bg-[#0b1012]">
      <canvas
        ref={canvas}
        width={640}
        height={360}
        className="size-full"
        role="img"
        aria-label="Picture at the gate"
        data-picture
      />
      <FollowClicks />
      {missing && !problem && (
        <p className="absolute inset-0 grid place-items-center text-[12px] text-[#ece6d8]">
          This frame is still being prepared.
        </p>
      )}
      {problem && (
        <p className="absolute inset-x-0 bottom-0 bg-[#0b1012] p-2 text-[12px] text-[#ff9d80]">{problem}</p>
      )}
    </div>
  )
}
