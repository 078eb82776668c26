import { memo } from 'react'
import { useAppSelector } from '../document/store.js'
import { LANES, topOf, type Stretch } from './geometry.js'

/** Where something has changed since a turnover, beside the timecode; the change that is looked at is filled. */
export const SinceMarks = memo(function SinceMarks({ stretch }: { stretch: Stretch }) {
  const since = useAppSelector((state) => state.view.since)
  if (!since) return null
  const looked = since.lines[since.at]
  // One mark a place, however much has changed there.
  const places = new Map<number, string>()
  for (const { at, name, text } of since.lines)
    if (at && at.from >= stretch.from && at.from <= stretch.to)
      places.set(at.from, [places.get(at.from), `${name} ${text}`].filter(Boolean).join('\n'))
  return [...places].map(([frame, text]) => (
    <svg
      key={frame}
      className="absolute"
      style={{ left: LANES.timecode - 11, top: topOf(stretch, frame) - 5 }}
      width={10}
      height={10}
      data-since-mark={frame}
    >
      <title>{text}</title>
      <path
        d="M5 0.5 L9.5 5 L5 9.5 L0.5 5 Z"
        fill={frame === looked?.at?.from ? 'var(--ink)' : 'var(--paper)'}
        stroke="var(--ink-2)"
      />
    </svg>
  ))
})
