import { frameOfSample, FRAME_RATES } from '@yodel/core'
import { useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react'
import { useAppSelector } from '../document/store.js'
import { useReel, useSession } from '../session/session.js'
import { covers, GATE, stretchAround, type Stretch } from './geometry.js'

/** After a jump to somewhere else the paper leaves the picture so many milliseconds to come first. */
const PICTURE_FIRST_MS = 40
/** A reel that is opened is drawn as far as it can be seen first, and so many milliseconds later beyond. */
const SEEN_FIRST_MS = 150
/** Covers no place at any zoom. */
const NOTHING: Stretch = { from: 0, to: 0, zoom: 0, anchor: 0 }

/**
 * Follows the gate: moves the layers by one transform at each refresh, and draws another stretch of the reel
 * only when the visible one leaves what is drawn.
 *
 * @param layers - Elements whose tops count from the stretch's first frame.
 */
export function useStretch(height: number, layers: readonly RefObject<HTMLElement | null>[]): Stretch {
  const { transport } = useSession()
  const reel = useReel()
  const zoom = useAppSelector((state) => state.view.zoom)
  const rate = FRAME_RATES[reel.rate]
  const [drawn, setDrawn] = useState<Stretch>({ from: 0, to: 0, zoom, anchor: 0 })
  // The transform belongs to the stretch that is in the DOM, which may lag behind the one asked for.
  const inDom = useRef(drawn)
  const asked = useRef(drawn)
  const isWhole = useRef(false)

  useLayoutEffect(() => {
    inDom.current = drawn
    place(layers, drawn, frameOfSample(transport.sample, rate), height)
  }, [drawn, transport, rate, height, layers])

  useEffect(() => {
    let waiting: ReturnType<typeof setTimeout> | undefined
    const end = transport.subscribe((sample) => {
      const frame = frameOfSample(sample, rate)
      if (asked.current.zoom !== zoom || !covers(asked.current, frame, height, reel.length)) {
        const before = asked.current
        const next = stretchAround(frame, height, zoom, reel.length)
        asked.current = next
        clearTimeout(waiting)
        const hasJumped = next.from >= before.to || next.to <= before.from
        const later = (ms: number): void => {
          waiting = setTimeout(() => {
            isWhole.current = true
            setDrawn(next)
          }, ms)
        }
        if (!isWhole.current) {
          setDrawn(stretchAround(frame, height, zoom, reel.length, 0))
          later(SEEN_FIRST_MS)
        } else if (hasJumped) later(PICTURE_FIRST_MS)
        else setDrawn(next)
      }
      place(layers, inDom.current, frame, height)
    })
    return () => {
      clearTimeout(waiting)
      end()
      // One that has not been drawn is asked for again, and so is what lies beyond the first.
      asked.current = isWhole.current ? inDom.current : NOTHING
    }
  }, [transport, rate, reel.length, height, zoom, layers])
  return drawn
}

function place(
  layers: readonly RefObject<HTMLElement | null>[],
  stretch: Stretch,
  frame: number,
  height: number,
): void {
  // Whole pixels of the screen are copied as they are; between them every one would be mixed of its neighbours, in four times the time.
  const pixels = window.devicePixelRatio
  const y = Math.round((height * GATE - (frame - stretch.anchor) * stretch.zoom) * pixels) / pixels
  for (const layer of layers)
    if (layer.current) layer.current.style.transform = `translate3d(0, ${y.toFixed(2)}px, 0)`
}
