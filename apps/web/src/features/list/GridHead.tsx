import type { Cue } from '@yodel/core'
import {
  closestCenter,
  DndContext,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core'
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable'
import type { Column } from '@tanstack/react-table'
import { moveColumn } from '../../ui/moveColumn.js'
import { ROW, type ListView } from './listView.js'

/** The headings: press to sort, again to turn round, a third time for the order of time; drag to move a column. */
export function GridHead({
  columns,
  width,
  view,
  onView,
}: {
  columns: readonly Column<Cue>[]
  width: number
  view: ListView
  onView: (view: ListView) => void
}) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }))
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (over) onView({ ...view, order: moveColumn(view.order, String(active.id), String(over.id)) })
  }
  return (
    <div
      className="sticky top-0 z-20 flex border-b border-line bg-paper-2"
      style={{ width, height: ROW + 2 }}
      role="row"
    >
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={onDragEnd}
        // What it says aloud is no heading.
        accessibility={{ container: document.body }}
      >
        <SortableContext items={columns.map((column) => column.id)} strategy={horizontalListSortingStrategy}>
          {columns.map((column) => (
            <Heading key={column.id} column={column} view={view} onView={onView} />
          ))}
        </SortableContext>
      </DndContext>
    </div>
  )
}

function Heading({
  column,
  view,
  onView,
}: {
  column: Column<Cue>
  view: ListView
  onView: (view: ListView) => void
}) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useSortable({ id: column.id })
  const sort = view.sort?.id === column.id ? view.sort : null
  const turn = (): void =>
    onView({
      ...view,
      sort: !sort ? { id: column.id, desc: false } : sort.desc ? null : { id: column.id, desc: true },
    })
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...attributes}
      {...listeners}
      role="columnheader"
      aria-sort={sort ? (sort.desc ? 'descending' : 'ascending') : 'none'}
      onClick={turn}
      style={{ width: column.getSize(), transform: transform ? `translateX(${transform.x}px)` : undefined }}
      className={`shrink-0 truncate border-r border-hair px-1.5 text-left text-[11px] font-semibold ${isDragging ? 'z-10 bg-card' : ''} ${sort ? 'text-ink underline' : 'text-ink-2'}`}
    >
      {column.columnDef.header as string}
      {sort ? (sort.desc ? ' ↑' : ' ↓') : ''}
    </button>
  )
}
