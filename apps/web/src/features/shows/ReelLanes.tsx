import { CATEGORIES, type ProgressCue } from '@yodel/core'

const LANE = 9
const TALL = 5
const WIDE = 1000
/** The shortest cue is still to be seen, in thousandths of the width. */
const LEAST = 8

/** The cues of a reel in a lane a category, filled where sounds cover them. @param length - Of the reel, in frames */
export function ReelLanes({ cues, length }: { cues: readonly ProgressCue[]; length: number }) {
  const place = (frame: number): number => (frame / Math.max(1, length)) * WIDE
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${CATEGORIES.length * LANE}`}
      preserveAspectRatio="none"
      className="mt-2 block w-full"
      style={{ height: CATEGORIES.length * LANE }}
      aria-hidden
    >
      {CATEGORIES.map((category, lane) => (
        <line
          key={category}
          x1={0}
          x2={WIDE}
          y1={lane * LANE + LANE / 2}
          y2={lane * LANE + LANE / 2}
          className="stroke-(--hair)"
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {cues.map(({ category, from, to, covered }, index) => (
        <rect
          key={index}
          x={place(from)}
          y={CATEGORIES.indexOf(category) * LANE + (LANE - TALL) / 2}
          width={Math.max(LEAST, place(to) - place(from))}
          height={TALL}
          className={`ink-${category} stroke-(--cat) ${covered ? 'fill-(--cat)' : 'fill-(--paper)'}`}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  )
}
