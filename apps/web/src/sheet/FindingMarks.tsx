import { memo, useMemo } from 'react'
import { useAppSelector } from '../document/store.js'
import { findingKey, useFindings } from '../session/findings.js'
import type { Stretch } from './geometry.js'
import { PlaceMark } from './PlaceMark.js'

/** Where findings stand, beside the timecode, while they are worked off; the one that is looked at is filled. */
export const FindingMarks = memo(function FindingMarks({ stretch }: { stretch: Stretch }) {
  const worked = useAppSelector((state) => state.view.workedOff)
  return worked === null ? null : <Marks stretch={stretch} worked={worked.key} />
})

function Marks({ stretch, worked }: { stretch: Stretch; worked: string }) {
  const { findings } = useFindings()
  const seen = useMemo(() => {
    // One mark a place: the worst of what stands there, and the one that is looked at before all.
    const places = new Map<number, { key: string; stops: boolean; text: string }>()
    for (const finding of findings?.open ?? []) {
      const frame = finding.at?.from
      if (frame === undefined || frame < stretch.from || frame > stretch.to) continue
      const key = findingKey(finding)
      if (!places.has(frame) || key === worked)
        places.set(frame, { key, stops: finding.weight === 'stops', text: finding.text })
    }
    return [...places]
  }, [findings, stretch.from, stretch.to, worked])
  return seen.map(([frame, { key, stops, text }]) => (
    <PlaceMark
      key={frame}
      {...{ stretch, frame, text }}
      path="M9.5 5 L1 1 L1 9 Z"
      fill={key === worked ? (stops ? 'var(--gate)' : 'var(--ink)') : 'var(--paper)'}
      stroke={stops ? 'var(--gate)' : 'var(--ink-2)'}
      data-finding-mark={frame}
    />
  ))
}
