import { peakWithin } from '@yodel/core'
import { memo, useEffect, useRef } from 'react'
import { usePeaks } from './peaks.js'

/**
 * An outline of sound on a canvas: time runs down (`vertical`) or to the right.
 *
 * @param from - Samples of the recording, `[from, to)`, over the whole length of the canvas.
 * @param gain - Linear gain that the outline is drawn with.
 * @param colour - A CSS colour; may be a custom property.
 */
export const Wave = memo(function Wave(props: {
  mediaId: string
  from: number
  to: number
  width: number
  height: number
  vertical?: boolean
  gain?: number
  colour: string
  opacity?: number
  className?: string
}) {
  const { mediaId, from, to, vertical = false, gain = 1, colour, opacity = 1 } = props
  const width = Math.max(1, Math.round(props.width))
  const height = Math.max(1, Math.round(props.height))
  const length = vertical ? height : width
  const peaks = usePeaks(mediaId, (to - from) / length)
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context || !canvas.current) return
    context.clearRect(0, 0, width, height)
    if (!peaks) return
    context.fillStyle = colour.startsWith('--') || colour.startsWith('var(') ? getComputedStyle(canvas.current).getPropertyValue(colour.replace(/^var\(|\)$/g, '')) : colour
    const across = vertical ? width : height
    const perPixel = (to - from) / length
    for (let at = 0; at < length; at++) {
      const value = Math.min(1, peakWithin(peaks, from + at * perPixel, from + (at + 1) * perPixel) * gain)
      // The square root lets quiet parts be seen without drawing loud ones wrong in order.
      const extent = Math.max(1, Math.sqrt(value) * across)
      if (vertical) context.fillRect((across - extent) / 2, at, extent, 1)
      else context.fillRect(at, (across - extent) / 2, 1, extent)
    }
  }, [peaks, from, to, width, height, vertical, gain, colour, length])
  return <canvas ref={canvas} width={width} height={height} className={props.className} style={{ opacity, width, height }} aria-hidden />
})
