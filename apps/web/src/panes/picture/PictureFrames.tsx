import { frames, FRAME_RATES, pictureFrameAt, sameSpeed } from '@yodel/core'
import { useEffect, useRef, useState } from 'react'
import { HEIGHT, WIDTH } from '../../picture/frameMemory.js'
import { PictureDecoder } from '../../picture/PictureDecoder.js'
import { showElsewhere } from '../../picture/otherWindow.js'
import { usePicture, usePictureOffset, useReel, useSession } from '../../session/session.js'
import { CloserLook } from './CloserLook.js'
import { CountInLine } from './CountInLine.js'
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
  // What moves every refresh reads what is new from here.
  const now = useRef({ offset, made, grows })
  now.current = { offset, made, grows }
  useEffect(() => {
    if (!canvas.current) return
    const element = canvas.current
    const decoder = new PictureDecoder(`/api/pictures/${pictureId}`, element, setProblem)
    decoding.current = decoder
    decoder.grows = now.current.grows
    decoder.onMissing = () => {
      delete element.dataset['frame']
      transport.seen = null
      setMissing(true)
    }
    decoder.onDrawn = (frame) => {
      setMissing(false)
      element.dataset['frame'] = String(frame)
      transport.seen = sameSpeed(movieRate, FRAME_RATES[reel.rate])
        ? frames(frame + now.current.offset)
        : null
      setProblem(null)
    }
    let unsubscribe = (): void => undefined
    let closed = false
    decoder.open().then(
      () => {
        if (closed) return
        const inMovie = (frame: number): number =>
          pictureFrameAt(frame - now.current.offset, FRAME_RATES[reel.rate], movieRate)
        transport.onExpected = (frame) => decoder.expect(inMovie(frame))
        unsubscribe = transport.subscribe(() => {
          const { made: there, grows: partly } = now.current
          const frame = inMovie(transport.frame)
          if (transport.rolling) decoder.roll(frame)
          else decoder.show(frame)
          showElsewhere({ pictureId, frame, rolling: transport.rolling, made: there, whole: !partly })
        })
      },
      (error: unknown) => setProblem(error instanceof Error ? error.message : String(error)),
    )
    return () => {
      closed = true
      transport.seen = null
      transport.onExpected = null
      unsubscribe()
      decoding.current = null
      decoder.close()
    }
    // Another offset is seen at the next movement; it is no reason to decode anew.
  }, [pictureId, transport, reel.rate, movieRate])
  useEffect(() => transport.announce(), [offset, transport])
  const known = useRef({ made, grows })
  useEffect(() => {
    const decoder = decoding.current
    if (!decoder || (known.current.made === made && known.current.grows === grows)) return
    known.current = { made, grows }
    decoder.grows = grows
    decoder.grow().then(
      () => transport.announce(),
      () => undefined,
    )
  }, [made, grows, transport])
  return (
    <div className="relative aspect-video w-full bg-[#0b1012]">
      <CloserLook>
        <canvas
          ref={canvas}
          width={WIDTH}
          height={HEIGHT}
          className="size-full"
          role="img"
          aria-label="Picture at the gate"
          data-picture
        />
      </CloserLook>
      <FollowClicks />
      <CountInLine />
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
