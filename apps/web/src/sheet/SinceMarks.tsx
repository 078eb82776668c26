import { memo } from 'react'
import { useAppSelector } from '../document/store.js'
import type { Stretch } from './geometry.js'
import { PlaceMark } from './PlaceMark.js'

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
    <PlaceMark
      key={frame}
      {...{ stretch, frame, text }}
      path="M5 0.5 L9.5 5 L5 9.5 L0.5 5 Z"
      fill={frame === looked?.at?.from ? 'var(--ink)' : 'var(--paper)'}
      stroke="var(--ink-2)"
      data-since-mark={frame}
    />
  ))
})
