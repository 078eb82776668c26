import { useTables } from '../../document/useTables.js'
import {
  CATEGORIES,
  coverageOf,
  cuesInOrder,
  CUE_FIELDS,
  cueStateSchema,
  STATE_NAMES,
  type Cue,
  type ReelDocument,
} from '@yodel/core'
import {
  getCoreRowModel,
  getExpandedRowModel,
  getGroupedRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type Table,
} from '@tanstack/react-table'
import { useMemo } from 'react'
import type { ListView } from './listView.js'

const WIDTHS: Readonly<Record<string, number>> = {
  code: 74,
  category: 72,
  number: 62,
  in: 98,
  out: 98,
  sync: 98,
  length: 62,
  words: 270,
  source: 124,
  where: 116,
  scene: 56,
  onScreen: 74,
  perspective: 84,
  notes: 200,
  priority: 66,
  by: 100,
  state: 80,
  omitReason: 130,
  covered: 70,
}

/** What a column is sorted by: times and numbers as such, lists in their own order, words as words. */
function sortValue(doc: Pick<ReelDocument, 'reel' | 'clip'>, key: string, cue: Cue): string | number {
  if (key === 'code' || key === 'category')
    return CATEGORIES.indexOf(cue.category) * 100_000 + (key === 'code' ? cue.number : 0)
  if (key === 'length') return cue.out - cue.in
  if (key === 'state') return cueStateSchema.options.indexOf(cue.state)
  if (key === 'covered') return ['nothing', 'partly', 'fully'].indexOf(coverageOf(doc, cue))
  if (key === 'scene') return cue.scene.padStart(8)
  return cue[key as keyof Cue]
}

/** Cues that a view lets through, in the order of time. */
export function filterCues(
  doc: Pick<ReelDocument, 'cue' | 'note'>,
  view: Pick<ListView, 'search' | 'categories' | 'states' | 'noted'>,
): Cue[] {
  const words = view.search.toLowerCase().split(/\s+/).filter(Boolean)
  const noted = view.noted
    ? new Set(
        [...doc.note.values()].flatMap((note) => (note.closed || note.replyTo !== null ? [] : [note.cueId])),
      )
    : null
  return cuesInOrder(doc).filter((cue) => {
    if (view.categories.length > 0 && !view.categories.includes(cue.category)) return false
    if (view.states.length > 0 && !view.states.includes(cue.state)) return false
    if (noted && !noted.has(cue.id)) return false
    if (words.length === 0) return true
    const text =
      `${cue.category} ${String(cue.number).padStart(3, '0')} ${cue.words} ${cue.source} ${cue.where} ${cue.scene} ${cue.notes} ${cue.by} ${STATE_NAMES[cue.state]}`.toLowerCase()
    return words.every((word) => text.includes(word))
  })
}

/** The rows and columns of the list as a view has them. */
export function useCueTable(view: ListView): Table<Cue> {
  const doc = useTables('cue', 'note', 'clip', 'reel')
  const { search, categories, states, noted } = view
  const data = useMemo(
    () => filterCues(doc, { search, categories, states, noted }),
    [doc, search, categories, states, noted],
  )
  const columns = useMemo(
    (): ColumnDef<Cue, string | number>[] =>
      CUE_FIELDS.map((field) => ({
        id: field.key,
        header: field.title,
        size: WIDTHS[field.key] ?? 100,
        accessorFn: (cue) => sortValue(doc, field.key, cue),
        sortingFn: (a, b, id) => compare(a.getValue(id), b.getValue(id)),
        getGroupingValue: (cue) =>
          field.key === 'category' ? CATEGORIES.indexOf(cue.category) : field.text(doc, cue),
      })),
    // What cells sort by hangs on rate and coverage, which change with cues and clips.
    [doc],
  )
  // The same objects as long as the view is the same: the table computes its rows anew whenever one of them is another.
  const state = useMemo(
    () => ({
      // Groups stand in their column's own order, whatever they are sorted by within.
      sorting: [...(view.group ? [{ id: view.group, desc: false }] : []), ...(view.sort ? [view.sort] : [])],
      grouping: view.group ? [view.group] : [],
      expanded: true as const,
      columnOrder: [...view.order],
      columnVisibility: Object.fromEntries(view.hidden.map((key) => [key, false])),
    }),
    [view.sort, view.group, view.order, view.hidden],
  )
  return useReactTable({
    data,
    columns,
    getRowId: (cue) => cue.id,
    state,
    groupedColumnMode: false,
    autoResetExpanded: false,
    autoResetPageIndex: false,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getGroupedRowModel: getGroupedRowModel(),
    getExpandedRowModel: getExpandedRowModel(),
  })
}

function compare(a: unknown, b: unknown): number {
  return typeof a === 'number' && typeof b === 'number'
    ? a - b
    : String(a).localeCompare(String(b), undefined, { numeric: true })
}
