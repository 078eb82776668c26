import {
  closestCenter,
  DndContext,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core'
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable'
import type { KeyboardEvent, PointerEvent } from 'react'
import { columnWidth, type ResultsLook } from '../../document/resultsLook.js'
import { searchActions } from '../../document/searchSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { moveColumn } from '../../ui/moveColumn.js'
import { followPointer } from '../../ui/followPointer.js'
import { EDGE } from './ResultCells.js'
import { columnsShown, type ResultColumn } from './resultColumns.js'

/** So much a key changes the width of a column, in pixels. */
const STEP = 10

/** The headings of the table of results: press to order, drag to move (Shift with ← →), pull the edge for the width. */
export function ResultHead({ look }: { look: ResultsLook }) {
  const dispatch = useAppDispatch()
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }))
  const columns = columnsShown(look)
  const move = (key: string, to: string): void =>
    void dispatch(searchActions.setLook({ order: moveColumn(look.order, key, to) }))
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (over) move(String(active.id), String(over.id))
  }
  return (
    <div className="sticky top-0 z-10 flex h-[26px] w-max min-w-full border-b border-line bg-paper-2 pl-3">
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={onDragEnd}
        accessibility={{ container: document.body }}
      >
        <SortableContext items={columns.map(({ key }) => key)} strategy={horizontalListSortingStrategy}>
          {columns.map((column, index) => (
            <Heading
              stays={index === 0 && column.key === 'name'}
              key={column.key}
              column={column}
              look={look}
              onMove={(by) => {
                const beside = columns[index + by]
                if (beside) move(column.key, beside.key)
              }}
            />
          ))}
        </SortableContext>
      </DndContext>
    </div>
  )
}

function Heading(props: {
  column: ResultColumn
  look: ResultsLook
  /** It stays in sight while the table is scrolled sideways. */
  stays: boolean
  onMove: (by: 1 | -1) => void
}) {
  const { column, look, stays, onMove } = props
  const dispatch = useAppDispatch()
  const { sort, down } = useAppSelector((state) => state.search)
  const { listeners, setNodeRef, transform } = useSortable({ id: column.key })
  const isSorted = column.order !== undefined && sort === column.order
  const turn = (): void => {
    if (!column.order) return
    const most = column.order !== 'name' && column.order !== 'length'
    dispatch(searchActions.order({ sort: column.order, down: isSorted ? !down : most }))
  }
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = ({ ArrowRight: 1, ArrowLeft: -1 } as const)[event.key]
    if (by === undefined || !event.shiftKey) return
    event.preventDefault()
    onMove(by)
  }
  return (
    <div
      ref={setNodeRef}
      className={`flex shrink-0 items-center ${stays ? 'sticky left-0 z-1 -ml-3 bg-paper-2 pl-3' : 'relative'}`}
      style={{
        width: columnWidth(look, column.key) + (stays ? EDGE : 0),
        transform: transform ? `translateX(${transform.x}px)` : undefined,
      }}
    >
      <button
        type="button"
        {...listeners}
        onClick={turn}
        onKeyDown={onKeyDown}
        aria-pressed={isSorted}
        title={column.order ? `Order by ${column.title.toLowerCase()}` : column.title}
        className={`min-h-6 min-w-0 flex-1 truncate pr-2.5 text-[11px] font-semibold ${column.figures ? 'text-right' : 'text-left'} ${isSorted ? 'text-ink underline' : 'text-ink-2'} ${column.order ? '' : 'cursor-grab'}`}
      >
        {column.title}
        {isSorted && (down ? ' ↓' : ' ↑')}
      </button>
      <Edge column={column} look={look} />
    </div>
  )
}

function Edge({ column, look }: { column: ResultColumn; look: ResultsLook }) {
  const dispatch = useAppDispatch()
  const width = columnWidth(look, column.key)
  const set = (next: number): void =>
    void dispatch(searchActions.setLook({ widths: { ...look.widths, [column.key]: Math.round(next) } }))
  const onPointerDown = (down: PointerEvent): void => {
    down.stopPropagation()
    followPointer(down, { onMove: (event) => set(width + event.clientX - down.clientX) })
  }
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = { ArrowRight: STEP, ArrowLeft: -STEP }[event.key]
    if (by === undefined) return
    event.preventDefault()
    set(width + by)
  }
  return (
    <span
      role="separator"
      tabIndex={0}
      aria-orientation="vertical"
      aria-label={`Width of ${column.title}`}
      aria-valuenow={width}
      onPointerDown={onPointerDown}
      onKeyDown={onKeyDown}
      className="absolute inset-y-0 right-0 w-[9px] cursor-col-resize touch-none border-r border-line hover:border-ink-3"
    />
  )
}
