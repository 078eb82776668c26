import { CATEGORIES, CUE_FIELDS, cueStateSchema, STATE_NAMES, type CueState } from '@yodel/core'
import { Search } from 'lucide-react'
import { Link } from 'react-router'
import { useHeldNames } from '../../actions/useKeys.js'
import { useReel } from '../../session/session.js'
import { Button } from '../../ui/Button.js'
import { STATE_MARKS } from '../../ui/stateMarks.js'
import { exportQuery, type ListView } from './listView.js'
import { Menu, Tick } from '../../ui/Menu.js'
import { Choice } from '../../ui/Choice.js'
import { Views } from './Views.js'

const GROUPS = [
  ['', 'not grouped'],
  ['category', 'by category'],
  ['scene', 'by scene'],
  ['source', 'by who makes it'],
  ['state', 'by state'],
  ['by', 'by person'],
] as const

/** What the list can be handed out as, and where it is had: with every column, or as it is shown. */
const exportsOf = (view: ListView): readonly (readonly [string, string])[] => {
  const group = view.group ? `&group=${view.group}` : ''
  return [
    ['CSV, every column', 'cues.csv'],
    ['CSV, these columns', `cues.csv?${exportQuery(view)}`],
    ['Workbook (XLSX), every column', 'cues.xlsx'],
    ['Workbook (XLSX), these columns', `cues.xlsx?${exportQuery(view)}`],
    ['PDF', `cues.pdf?thumbnails=0${group}`],
    ['PDF with pictures', `cues.pdf?thumbnails=1${group}`],
  ]
}

interface ViewProps {
  view: ListView
  onView: (view: ListView) => void
}

const toggle = <T extends string>(list: readonly T[], value: T): T[] =>
  list.includes(value) ? list.filter((other) => other !== value) : [...list, value]

/** Filters, grouping, columns, saved views, and what can be done with the whole list. */
export function ListToolbar(props: {
  view: ListView
  onView: (view: ListView) => void
  shown: number
  total: number
  onFind: () => void
  onRenumber: () => void
}) {
  const { view, onView } = props
  const reel = useReel()
  const { ctrl } = useHeldNames()
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1.5 border-b border-line bg-paper-2 px-3 py-1.5 text-[12px]">
      <Filters view={view} onView={onView} />
      <Choice
        label="Group"
        value={view.group ?? ''}
        options={GROUPS}
        onChange={(group) => onView({ ...view, group: (group || null) as ListView['group'] })}
        className="h-7 rounded-[5px]!"
      />
      <Menu name="Columns">
        {CUE_FIELDS.map((field) => (
          <Tick
            key={field.key}
            on={!view.hidden.includes(field.key)}
            onChange={() => onView({ ...view, hidden: toggle(view.hidden, field.key) })}
          >
            {field.title}
          </Tick>
        ))}
        <p className="mt-1 border-t border-hair pt-1 text-[11px] text-ink-2">
          Drag headings to move columns.
        </p>
      </Menu>
      <Views view={view} onView={onView} />
      <span className="text-ink-2" role="status">
        {props.shown === props.total ? `${props.total} cues` : `${props.shown} of ${props.total} cues`}
      </span>
      <span className="ml-auto flex gap-1.5">
        <Button onClick={props.onFind} title={`Find and replace (${ctrl} F)`}>
          Replace …
        </Button>
        <Button onClick={props.onRenumber}>Renumber …</Button>
        <Link
          to={`/reels/${reel.id}/import`}
          className="inline-flex min-h-6 items-center rounded-[5px] border border-line bg-card px-2.5 text-[12.5px] hover:border-ink-3"
        >
          Import …
        </Link>
        <Export view={view} />
      </span>
    </div>
  )
}

/** By words, categories, states and open notes. */
function Filters({ view, onView }: ViewProps) {
  return (
    <>
      <label className="flex h-7 items-center gap-1.5 rounded-[3px] border border-line bg-card px-2">
        <Search size={13} aria-hidden />
        <input
          type="search"
          aria-label="Filter the list"
          placeholder="Filter"
          value={view.search}
          onChange={(event) => onView({ ...view, search: event.target.value })}
          onKeyDown={(event) => {
            event.stopPropagation()
            if (event.key !== 'Escape') return
            // The first time it forgets the words, the second time it leaves.
            if (view.search === '') event.currentTarget.blur()
            onView({ ...view, search: '' })
          }}
          className="w-[120px] bg-transparent outline-none"
        />
      </label>
      <span className="flex" role="group" aria-label="Categories">
        {CATEGORIES.map((category) => {
          const on = view.categories.includes(category)
          return (
            <button
              key={category}
              type="button"
              aria-pressed={on}
              onClick={() => onView({ ...view, categories: toggle(view.categories, category) })}
              className={`ink-${category} h-7 min-w-8 border-y border-r border-line px-1.5 text-[11px] font-bold first:rounded-l-[3px] first:border-l last:rounded-r-[3px] ${on ? 'bg-(--cat) text-card' : 'bg-card text-(--cat)'}`}
            >
              {category}
            </button>
          )
        })}
      </span>
      <Menu name={view.states.length > 0 ? `${view.states.length} states` : 'Any state'}>
        {cueStateSchema.options.map((state: CueState) => (
          <Tick
            key={state}
            on={view.states.includes(state)}
            onChange={() => onView({ ...view, states: toggle(view.states, state) })}
          >
            {STATE_MARKS[state]} {STATE_NAMES[state]}
          </Tick>
        ))}
        <Tick on={view.noted} onChange={() => onView({ ...view, noted: !view.noted })}>
          only with open notes
        </Tick>
      </Menu>
    </>
  )
}

function Export({ view }: { view: ListView }) {
  const reel = useReel()
  return (
    <Menu name="Export" right>
      {exportsOf(view).map(([name, path]) => (
        <a
          key={path}
          href={`/api/reels/${reel.id}/${path}`}
          download
          className="block rounded px-2 py-1 whitespace-nowrap hover:bg-paper-3"
        >
          {name}
        </a>
      ))}
    </Menu>
  )
}
