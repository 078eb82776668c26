import {
  cueCode,
  differenceOf,
  FRAME_RATES,
  formatTimecode,
  type ComparedCue,
  type ComparedField,
  type Cue,
} from '@yodel/core'
import { Button } from '../../ui/Button.js'
import { useReel } from '../../session/session.js'
import { DIFFERENCE_NAMES } from '../../session/useComparison.js'

/** A line of the comparison: this sheet at the left, the other at the right, what differs between them. */
export function ComparedLine(props: {
  line: ComparedCue
  top: number
  height: number
  chosen: boolean
  onPick: () => void
  onTake: () => void
}) {
  const { line, chosen } = props
  const difference = differenceOf(line)
  const shift =
    line.mine && line.theirs
      ? line.theirs.sync - line.mine.sync || line.theirs.in - line.mine.in || line.theirs.out - line.mine.out
      : 0
  return (
    <div
      role="option"
      aria-selected={chosen}
      onClick={props.onPick}
      className={`absolute inset-x-0 grid grid-cols-[1fr_128px_1fr] border-b border-hair px-3 ${chosen ? 'bg-paper-3' : ''}`}
      style={{ top: props.top, height: props.height }}
      data-difference={difference}
    >
      <Side cue={line.mine} differs={line.differs} />
      <div className="flex flex-col items-center justify-center gap-0.5 text-center text-[11px]">
        <span className={difference === 'same' ? 'text-ink-3' : 'font-semibold text-ink'}>
          {DIFFERENCE_NAMES[difference]}
          {difference === 'moved' && shift !== 0 && ` ${shift > 0 ? '+' : '−'}${Math.abs(shift)}`}
        </span>
        {line.theirs && difference !== 'same' && (
          <Button
            className="py-0"
            onClick={(event) => {
              event.stopPropagation()
              props.onTake()
            }}
          >
            ← Take over
          </Button>
        )}
      </div>
      <Side cue={line.theirs} differs={line.differs} />
    </div>
  )
}

function Side({ cue, differs }: { cue: Cue | null; differs: readonly ComparedField[] }) {
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  if (!cue) return <span className="self-center text-ink-3">—</span>
  const tc = (frame: number): string => formatTimecode(reel.firstFrame + frame, rate)
  const mark = (...fields: ComparedField[]): string =>
    fields.some((field) => differs.includes(field)) ? 'font-bold text-ink underline' : 'text-ink-2'
  return (
    <div className={`ink-${cue.category} flex min-w-0 flex-col justify-center text-[12px]`}>
      <span className="flex gap-2">
        <b
          className={`text-[11px] ${differs.includes('category') ? 'text-(--cat) underline' : 'text-(--cat)'}`}
        >
          {cueCode(cue)}
        </b>
        <span className={`font-mono text-[11px] ${mark('in', 'sync')}`}>{tc(cue.in)}</span>
        <span className={`font-mono text-[11px] ${mark('out')}`}>{tc(cue.out)}</span>
      </span>
      <span className={`truncate ${differs.includes('words') ? 'font-semibold' : ''}`}>
        {cue.words || 'no words'}
      </span>
    </div>
  )
}
