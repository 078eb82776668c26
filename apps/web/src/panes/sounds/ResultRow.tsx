import type { FoundSound } from '@yodel/core'
import { memo, type DragEvent, type MouseEvent } from 'react'
import type { ResultsLook } from '../../document/resultsLook.js'
import { ResultCells } from './ResultCells.js'
import { ResultFull } from './ResultFull.js'
import { ResultLine } from './ResultLine.js'

/** Heights of rows in pixels. */
export const ROWS: Readonly<Record<ResultsLook['rows'], number>> = { full: 62, dense: 26, table: 26 }

/** What the pointer does with a row. */
export interface RowActs {
  readonly choose: (index: number, event: MouseEvent) => void
  readonly use: () => void
  readonly drag: (event: DragEvent, sound: FoundSound) => void
}

/** One result in one of three looks. */
export const ResultRow = memo(function ResultRow(props: {
  sound: FoundSound
  look: ResultsLook
  index: number
  top: number
  width: number
  chosen: boolean
  marked: boolean
  near: string | null
  draggable: boolean
  acts: RowActs
}) {
  const { sound, look, index, top, width, chosen, marked, near, draggable, acts } = props
  const pad = look.rows === 'full' ? 'px-3 pt-1' : 'pl-3'
  return (
    <div
      role="option"
      aria-selected={chosen || marked}
      data-sound={sound.id}
      onClick={(event) => acts.choose(index, event)}
      onDoubleClick={acts.use}
      draggable={draggable}
      onDragStart={(event) => acts.drag(event, sound)}
      className={`absolute inset-x-0 cursor-pointer border-t border-hair ${pad} ${chosen ? 'bg-card shadow-[inset_4px_0_0_var(--gate)]' : marked ? 'bg-card shadow-[inset_4px_0_0_var(--ink-3)]' : 'bg-paper hover:bg-card'}`}
      style={{ top, height: ROWS[look.rows] }}
    >
      {look.rows === 'full' && <ResultFull sound={sound} width={width} chosen={chosen} near={near} />}
      {look.rows === 'dense' && <ResultLine sound={sound} width={width} chosen={chosen} near={near} />}
      {look.rows === 'table' && <ResultCells sound={sound} look={look} chosen={chosen} near={near} />}
    </div>
  )
})
