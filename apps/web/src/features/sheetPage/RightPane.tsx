import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/react'
import { Fragment, type JSX } from 'react'
import { useKeyOf } from '../../actions/useKeys.js'
import { PANE } from '../../document/pictureWidth.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { PANES, viewActions, type PaneName } from '../../document/viewSlice.js'
import { Balance } from '../../panes/balance/Balance.js'
import { History } from '../../panes/history/History.js'
import { NotesPane } from '../../panes/notes/NotesPane.js'
import { StacksPane } from '../../panes/stacks/StacksPane.js'
import { SoundsPane } from '../../panes/sounds/SoundsPane.js'

const SHOWN: Readonly<Record<PaneName, { title: string; action: string; Content: () => JSX.Element }>> = {
  sounds: { title: 'Sounds', action: 'search', Content: SoundsPane },
  stacks: { title: 'Stacks', action: 'stacks', Content: StacksPane },
  balance: { title: 'Balance', action: 'balance', Content: Balance },
  notes: { title: 'Notes', action: 'notes', Content: NotesPane },
  history: { title: 'History', action: 'history', Content: History },
}

/** The one place at the right of the Sheet, and what it shows: a tab for each, a key for each. */
export function RightPane({ shown }: { shown: PaneName }) {
  const dispatch = useAppDispatch()
  return (
    <TabGroup
      as="aside"
      className="flex shrink-0 flex-col border-l border-line bg-paper"
      style={{ width: PANE }}
      aria-label={SHOWN[shown].title}
      selectedIndex={PANES.indexOf(shown)}
      onChange={(index) => dispatch(viewActions.showPane(PANES[index] as PaneName))}
    >
      <TabList className="flex shrink-0 gap-2.5 border-b border-line px-3">
        {PANES.map((name) => (
          <Name key={name} name={name} />
        ))}
      </TabList>
      <TabPanels as={Fragment}>
        {PANES.map((name) => {
          const { Content } = SHOWN[name]
          return (
            <TabPanel key={name} className="flex min-h-0 flex-1 flex-col outline-none" tabIndex={-1}>
              <Content />
            </TabPanel>
          )
        })}
      </TabPanels>
    </TabGroup>
  )
}

function Name({ name }: { name: PaneName }) {
  const { title, action } = SHOWN[name]
  const key = useKeyOf(action)
  const open = useAppSelector(({ document: { doc } }) =>
    name === 'notes'
      ? [...doc.note.values()].filter((note) => note.replyTo === null && !note.closed).length
      : 0,
  )
  return (
    <Tab
      title={key}
      className="-mb-px min-h-[27px] border-b-2 border-transparent text-[12px] text-ink-2 hover:text-ink data-selected:border-ink data-selected:font-semibold data-selected:text-ink"
    >
      {title}
      {open > 0 && <span className="ml-1 text-gate">{open}</span>}
    </Tab>
  )
}
