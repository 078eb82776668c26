import { useEffect, useState } from 'react'
import { useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { SelectionCard } from '../../panes/cards/SelectionCard.js'
import { Overview } from '../../panes/overview/Overview.js'
import { ReelPage } from '../../panes/shell/ReelPage.js'
import { CueGrid } from './CueGrid.js'
import { FindReplace } from './FindReplace.js'
import { ListToolbar } from './ListToolbar.js'
import { storeView, lastView, PLAIN_VIEW, type ListView } from './listView.js'
import { RenumberDialog } from './RenumberDialog.js'
import { useCueTable } from './useCueTable.js'

/** The spotting list: every cue as a line, with picture, transport and card beside it. */
export function ListPage() {
  const total = useAppSelector((state) => state.document.doc.cue.size)
  const [view, setView] = useState(lastView)
  const [finding, setFinding] = useState(false)
  const [renumbering, setRenumbering] = useState(false)
  const table = useCueTable(view)
  const shown = table.getCoreRowModel().rows
  const onView = (next: ListView): void => {
    setView(next)
    storeView(next)
  }
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'f') return
      event.preventDefault()
      setFinding(true)
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [])
  return (
    <ReelPage beside={<SelectionCard />}>
      <Overview />
      <section className="flex min-w-0 flex-1 flex-col" aria-label="List">
        <ListToolbar
          view={view}
          onView={onView}
          shown={shown.length}
          total={total}
          onFind={() => setFinding(true)}
          onRenumber={() => setRenumbering(true)}
        />
        {finding && <FindReplace cues={shown.map((row) => row.original)} onClose={() => setFinding(false)} />}
        {shown.length > 0 ? (
          <CueGrid table={table} view={view} onView={onView} />
        ) : (
          <div className="p-6 text-ink-2">
            {total === 0 ? (
              'No cue yet. Spot on the Sheet with 1 to 6, or import a list that was typed elsewhere.'
            ) : (
              <>
                None of {total} cues passes the filter.{' '}
                <Button
                  className="ml-2"
                  onClick={() =>
                    onView({ ...view, search: PLAIN_VIEW.search, categories: [], states: [], noted: false })
                  }
                >
                  Show all
                </Button>
              </>
            )}
          </div>
        )}
      </section>
      {renumbering && <RenumberDialog onClose={() => setRenumbering(false)} />}
    </ReelPage>
  )
}
