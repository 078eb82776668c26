import { peakWithin, type PeakLevel } from '@yodel/core'
import { memo, useMemo } from 'react'
import { usePeaks } from './peaks.js'

/**
 * An outline of sound: time runs down (`vertical`) or to the right. Drawn as one path, since every canvas would be a
 * layer of its own for the browser to put together at each refresh.
 *
 * @param from - Samples of the recording, `[from, to)`, over the whole length of the outline.
 * @param gain - Linear gain that the outline is drawn with.
 * @param colour - Name of a custom property, such as `--cat`.
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
  /** Pixels from the top, where `className` places it. */
  top?: number
}) {
  const { mediaId, from, to, vertical = false, gain = 1, colour, opacity = 1 } = props
  const width = Math.max(1, Math.round(props.width))
  const height = Math.max(1, Math.round(props.height))
  const [along, across] = vertical ? [height, width] : [width, height]
  const peaks = usePeaks(mediaId, (to - from) / along)
  const path = useMemo(
    () => (peaks ? outline(peaks, from, to, along, across, gain, vertical) : ''),
    [peaks, from, to, along, across, gain, vertical],
  )
  return (
    <svg
      {...{ width, height }}
      className={`block ${props.className ?? ''}`}
      style={{ top: props.top }}
      aria-hidden
    >
      <path d={path} fill={`var(${colour})`} fillOpacity={opacity} />
    </svg>
  )
})

/** The outline as a closed path, a step a pixel: one edge there, the other one back. */
function outline(
  peaks: PeakLevel,
  from: number,
  to: number,
  along: number,
  across: number,
  gain: number,
  vertical: boolean,
): string {
  const perPixel = (to - from) / along
  const there: string[] = []
  const back: string[] = []
  for (let at = 0; at < along; at++) {
    const value = Math.min(1, peakWithin(peaks, from + at * perPixel, from + (at + 1) * perPixel) * gain)
    // The square root lets quiet parts be seen without drawing loud ones wrong in order.
    const half = Math.max(1, Math.sqrt(value) * across) / 2
    const near = (across / 2 - half).toFixed(1)
    const far = (across / 2 + half).toFixed(1)
    there.push(vertical ? `H${near}V${at + 1}` : `V${near}H${at + 1}`)
    back.push(vertical ? `V${at + 1}H${far}` : `H${at + 1}V${far}`)
  }
  const start = across / 2
  return `M${vertical ? `${start} 0` : `0 ${start}`}${there.join('')}${back.reverse().join('')}${vertical ? 'V0' : 'H0'}Z`
}
