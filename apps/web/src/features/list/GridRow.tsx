import { CATEGORIES, CATEGORY_NAMES, cueField, type Cue, type ReelDocument } from '@yodel/core'
import type { Column, Row } from '@tanstack/react-table'
import { memo, type MouseEvent, type ReactNode } from 'react'
import { STATE_MARKS } from '../../ui/stateMarks.js'
import { ROW } from './listView.js'

const FIGURES = new Set(['in', 'out', 'sync', 'length', 'number'])

/** A cue as a line of the list. */
export const GridRow = memo(
  function GridRow(props: {
    cue: Cue
    doc: ReelDocument
    columns: readonly Column<Cue>[]
    top: number
    width: number
    /** Columns of the selected block, or null when the row is not in it. */
    selected: readonly string[] | null
    focus: string | null
    editor: ReactNode
    onPick: (row: string, column: string, extend: boolean) => void
    onOpen: () => void
  }) {
    const { cue, doc, columns, selected, focus } = props
    const pick = (event: MouseEvent, column: string): void => {
      event.preventDefault()
      props.onPick(cue.id, column, event.shiftKey)
    }
    return (
      <div
        role="row"
        data-row={cue.id}
        className={`absolute left-0 flex border-b border-hair [contain:strict] ink-${cue.category} ${cue.state === 'omitted' ? 'text-ink-3' : ''}`}
        style={{ top: props.top, width: props.width, height: ROW }}
      >
        {columns.map(({ id, getSize }) => {
          const text = cueField(id).text(doc, cue)
          const inBlock = selected?.includes(id) ?? false
          return (
            <div
              key={id}
              role="gridcell"
              data-cell={id}
              aria-selected={inBlock}
              onMouseDown={(event) => pick(event, id)}
              onDoubleClick={props.onOpen}
              title={text.length > 30 ? text : undefined}
              style={{ width: getSize() }}
              className={`relative shrink-0 truncate border-r border-hair px-1.5 text-[12px] leading-[25px] ${FIGURES.has(id) ? 'font-mono' : ''} ${inBlock ? 'bg-paper-3' : ''} ${focus === id ? 'outline-2 -outline-offset-2 outline-focus' : ''} ${id === 'words' && cue.state === 'omitted' ? 'line-through' : ''}`}
            >
              {id === 'code' ? (
                <b className="font-bold text-(--cat)">{text}</b>
              ) : id === 'state' ? (
                `${STATE_MARKS[cue.state]} ${text}`
              ) : (
                text
              )}
              {focus === id && props.editor}
            </div>
          )
        })}
      </div>
    )
  },
  (a, b) =>
    a.cue === b.cue &&
    a.columns === b.columns &&
    a.top === b.top &&
    a.width === b.width &&
    a.focus === b.focus &&
    a.editor === null &&
    b.editor === null &&
    a.selected === null &&
    b.selected === null &&
    a.doc.clip === b.doc.clip &&
    a.doc.reel === b.doc.reel,
)

/** The heading of a group with its count. */
export function GroupRow({ row, top, width }: { row: Row<Cue>; top: number; width: number }) {
  const value = row.groupingValue
  const category = row.groupingColumnId === 'category' ? CATEGORIES[Number(value)] : undefined
  return (
    <div
      role="row"
      className={`absolute left-0 flex items-baseline gap-2 border-b border-line bg-paper-2 px-1.5 text-[12px] leading-[25px] ${category ? `ink-${category}` : ''}`}
      style={{ top, width, height: ROW }}
    >
      <b className={category ? 'text-(--cat)' : ''}>
        {category ? `${category} ${CATEGORY_NAMES[category]}` : String(value) || 'not said'}
      </b>
      <span className="text-ink-2">{row.subRows.length}</span>
    </div>
  )
}
