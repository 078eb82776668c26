import { CATEGORIES, CATEGORY_NAMES, type Category } from '@yodel/core'
import { useAppDispatch, useAppSelector } from '../document/store.js'
import { viewActions } from '../document/viewSlice.js'
import { Choice } from '../ui/Choice.js'
import { LANES } from './geometry.js'

/** Where the fixed lanes begin, in pixels from the left; `other` is null when no sheet lies beside. */
export interface LaneLefts {
  readonly guide: number
  readonly cues: number
  readonly other: number | null
  /** Width of all of them. */
  readonly width: number
}

/** Names of the fixed lanes, the number of cues (without omitted ones, as on the page of shows), and the pass that is on. */
export function SheetHead({ lefts, height }: { lefts: LaneLefts; height: number }) {
  const dispatch = useAppDispatch()
  const cues = useAppSelector((state) => state.document.doc.cue)
  const other = useAppSelector((state) => state.compare.other)
  const { pass, showStrip } = useAppSelector((state) => state.view)
  const all = [...cues.values()].filter((cue) => cue.state !== 'omitted')
  const open = all.filter((cue) => cue.state === 'open').length
  return (
    <div
      className="absolute inset-x-0 top-0 z-20 flex border-b border-line bg-paper-2"
      style={{ height, width: lefts.width }}
    >
      <Name left={6}>TC</Name>
      {showStrip && <Name left={LANES.timecode + 6}>Picture</Name>}
      <Name left={lefts.guide + 6}>G</Name>
      <div className="absolute top-[9px] text-[12px]" style={{ left: lefts.cues + 12 }}>
        <b className="font-semibold">
          {all.length} {all.length === 1 ? 'cue' : 'cues'}
        </b>{' '}
        {open > 0 && <span className="ml-1 text-[11.5px] text-gate">{open} open</span>}
      </div>
      <label
        className="absolute top-[28px] flex items-center gap-1 text-[11px] text-ink-2"
        style={{ left: lefts.cues + 12 }}
      >
        Pass
        <Choice<Category | ''>
          label="Pass"
          value={pass ?? ''}
          options={[
            ['', 'all alike'],
            ...CATEGORIES.map((category) => [category, `${category} ${CATEGORY_NAMES[category]}`] as const),
          ]}
          onChange={(category) => dispatch(viewActions.setPass({ pass: category || null, page: innerWidth }))}
          givesBack
          className={`text-[11px]! ${pass ? `ink-${pass} font-bold! text-(--cat)!` : ''}`}
          title="Watch for one category: its cues stand out, and what has rolled by is remembered"
        />
      </label>
      {lefts.other !== null && other && (
        <div className="absolute top-[9px] w-[144px] text-[12px]" style={{ left: lefts.other + 12 }}>
          <b className="block truncate font-semibold" title={other.title}>
            {other.title}
          </b>
          <span className="text-[11px] text-ink-2">{other.cues.length} cues beside</span>
        </div>
      )}
    </div>
  )
}

function Name({ left, children }: { left: number; children: string }) {
  return (
    <span className="absolute top-[32px] text-[11px] text-ink-2" style={{ left }}>
      {children}
    </span>
  )
}
