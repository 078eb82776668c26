import { CUE_FIELDS, type Category, type CueState, type ListGroup } from '@yodel/core'

/** Height of a row of the list in pixels. */
export const ROW = 26

/** How the list is looked at: what is shown, in which order, under which headings. */
export interface ListView {
  readonly search: string
  /** Only these categories; all when empty. */
  readonly categories: readonly Category[]
  /** Only these states; all when empty. */
  readonly states: readonly CueState[]
  /** Only cues with open notes. */
  readonly noted: boolean
  readonly group: ListGroup | null
  readonly sort: { readonly id: string; readonly desc: boolean } | null
  /** Keys of the columns from left to right. */
  readonly order: readonly string[]
  readonly hidden: readonly string[]
}

/** A view that somebody has named. */
export interface NamedView {
  readonly name: string
  readonly view: ListView
}

const HIDDEN = ['category', 'number', 'sync', 'perspective', 'priority', 'omitReason']

/** All cues by time, the columns that most work needs. */
export const PLAIN_VIEW: ListView = {
  search: '',
  categories: [],
  states: [],
  noted: false,
  group: null,
  sort: null,
  order: CUE_FIELDS.map((field) => field.key),
  hidden: HIDDEN,
}

/** What a list is asked for with, to go out as it is shown: its columns, and what it stands together by. */
export function exportQuery({ order, hidden, group }: ListView): string {
  const columns = order.filter((key) => !hidden.includes(key)).join(',')
  return new URLSearchParams({ columns, ...(group ? { group } : {}) }).toString()
}

const VIEW_KEY = 'list-view'
const NAMED_KEY = 'list-views'

/** A view read from the browser's store; columns that were added since then come last. */
export function readView(text: string | null): ListView {
  try {
    const kept = { ...PLAIN_VIEW, ...(JSON.parse(text ?? '{}') as Partial<ListView>) }
    const known = kept.order.filter((key) => PLAIN_VIEW.order.includes(key))
    return { ...kept, order: [...known, ...PLAIN_VIEW.order.filter((key) => !known.includes(key))] }
  } catch {
    return PLAIN_VIEW
  }
}

/** The view that the list was left with. */
export const lastView = (): ListView => readView(localStorage.getItem(VIEW_KEY))

/** Remembers the view for the next visit. */
export const storeView = (view: ListView): void =>
  localStorage.setItem(VIEW_KEY, JSON.stringify({ ...view, search: '' }))

/** Views that were saved under a name in this browser. */
export function namedViews(): NamedView[] {
  try {
    const kept = JSON.parse(localStorage.getItem(NAMED_KEY) ?? '[]') as NamedView[]
    return kept.map(({ name, view }) => ({ name, view: readView(JSON.stringify(view)) }))
  } catch {
    return []
  }
}

/** Saves a view under a name, in place of one that has it; a null view removes it. */
export function saveNamedView(name: string, view: ListView | null): NamedView[] {
  const others = namedViews().filter((candidate) => candidate.name !== name)
  const views = view ? [...others, { name, view }].sort((a, b) => a.name.localeCompare(b.name)) : others
  localStorage.setItem(NAMED_KEY, JSON.stringify(views))
  return views
}
