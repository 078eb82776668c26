import { useEffect, useRef, useState } from 'react'
import { HEIGHT, WIDTH } from '../../picture/frameMemory.js'
import { PictureDecoder } from '../../picture/PictureDecoder.js'
import { followSheet } from '../../picture/otherWindow.js'

/** The picture in a window of its own, for a second screen: follows the Sheet of the same browser frame by frame. */
export function PictureWindow() {
  const canvas = useRef<HTMLCanvasElement>(null)
  const [words, setWords] = useState<string | null>(
    'Open a reel in the other window; its picture appears here.',
  )
  useEffect(() => {
    document.title = 'Picture · Yodel'
    let decoder: PictureDecoder | null = null
    let pictureId = ''
    let ready = false
    let made = 0
    const unfollow = followSheet((shown) => {
      const element = canvas.current
      if (!element) return
      if (shown.pictureId !== pictureId) {
        pictureId = shown.pictureId
        decoder?.close()
        ready = false
        const fresh = new PictureDecoder(`/api/pictures/${pictureId}`, element, setWords)
        fresh.grows = !shown.whole
        made = shown.made
        fresh.onDrawn = (frame) => {
          element.dataset['frame'] = String(frame)
          setWords(null)
        }
        fresh.onMissing = () => {
          delete element.dataset['frame']
          setWords('This frame is still being prepared.')
        }
        decoder = fresh
        fresh.open().then(
          () => {
            ready = true
            setWords(null)
            fresh.show(shown.frame)
          },
          (error: unknown) => setWords(error instanceof Error ? error.message : String(error)),
        )
      } else if (ready && decoder && (shown.made !== made || shown.whole === decoder.grows)) {
        made = shown.made
        decoder.grows = !shown.whole
        const growing = decoder
        growing.grow().then(
          () => growing.show(shown.frame),
          () => undefined,
        )
      } else if (ready && shown.rolling) decoder?.roll(shown.frame)
      else if (ready) decoder?.show(shown.frame)
    })
    return () => {
      unfollow()
      decoder?.close()
    }
  }, [])
  return (
    <main className="relative grid h-full place-items-center bg-[#0b1012]">
      <canvas
        ref={canvas}
        width={WIDTH}
        height={HEIGHT}
        className="max-h-full w-full object-contain"
        role="img"
        aria-label="Picture at the gate"
        data-picture
      />
      {words && <p className="absolute text-[#ece6d8]">{words}</p>}
    </main>
  )
}
