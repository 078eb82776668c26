import type { Shelf } from '@yodel/core'
import { memo, useCallback, useEffect, useRef, useState } from 'react'
import { api } from '../../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../../document/store.js'
import { isUnderWay, useJob } from '../../../session/useJob.js'
import { Button } from '../../../ui/Button.js'
import { searchActions } from '../../../document/searchSlice.js'
import { AddShelf } from './AddShelf.js'
import { DropSounds } from './DropSounds.js'
import { ShelfDialog } from './ShelfDialog.js'
import { ShelfJob } from './ShelfJob.js'

const LOOK_MS = 2500

/** The shelves: which folders are indexed, how far, what came of it. */
export const Shelves = memo(function Shelves() {
  // What happens in watched folders is noticed by the server; the page looks now and then.
  const { data: shelves } = api.useShelvesQuery(undefined, {
    refetchOnMountOrArgChange: true,
    pollingInterval: LOOK_MS,
  })
  const [adding, setAdding] = useState(false)
  useNewSounds(shelves)
  return (
    <section className="mb-4" data-shelves>
      <h2 className="mb-1 flex items-center justify-between text-[13px] font-bold">
        Shelves
        <Button onClick={() => setAdding(true)}>Add a folder</Button>
      </h2>
      <DropSounds />
      {shelves?.length === 0 && (
        <p className="text-[12px] text-ink-2">
          No shelf yet. Add a folder of recordings: they are listened to and listed, never copied or changed.
          Or drop recordings onto this page: those are kept by Yodel.
        </p>
      )}
      {shelves?.map((shelf) => (
        <ShelfLine key={shelf.id} shelf={shelf} />
      ))}
      <AddShelf open={adding} onClose={() => setAdding(false)} />
    </section>
  )
})

/** Asks for the results again when a shelf has been indexed meanwhile, here or elsewhere. */
function useNewSounds(shelves: readonly Shelf[] | undefined): void {
  const dispatch = useAppDispatch()
  const before = useRef<string | null>(null)
  const now = shelves ? JSON.stringify(shelves.map(({ id, sounds, counts }) => [id, sounds, counts])) : null
  useEffect(() => {
    if (before.current !== null && now !== before.current) dispatch(api.util.invalidateTags(['Sounds']))
    before.current = now
  }, [now, dispatch])
}

function ShelfLine({ shelf }: { shelf: Shelf }) {
  const dispatch = useAppDispatch()
  const off = useAppSelector((state) => state.search.off.includes(shelf.id))
  const [open, setOpen] = useState(false)
  const onEnd = useCallback(() => dispatch(api.util.invalidateTags(['Shelves', 'Sounds'])), [dispatch])
  const job = useJob(shelf.jobId, onEnd)
  const [again] = api.usePauseJobMutation()
  return (
    <div className="border-t border-hair py-1 text-[12px]" data-shelf={shelf.id}>
      <div className="flex items-center gap-1">
        <input
          type="checkbox"
          checked={!off}
          onChange={() => dispatch(searchActions.toggleShelf(shelf.id))}
          aria-label={`Search ${shelf.name}`}
          title="Search this shelf"
        />
        <button
          type="button"
          className="flex min-h-6 min-w-0 flex-1 items-baseline gap-2 rounded-[3px] px-1 text-left hover:bg-paper-2"
          onClick={() => setOpen(true)}
          title={shelf.root}
        >
          <b className="min-w-0 flex-1 truncate font-semibold">{shelf.name}</b>
          {shelf.away && <span className="text-gate">away</span>}
          {!shelf.shared && <span className="text-ink-3">private</span>}
          {shelf.problems.length > 0 && (
            <span className="text-gate" title={`${shelf.problems.length} could not be read`}>
              {shelf.problems.length} !
            </span>
          )}
          <span className="font-mono text-ink-2">{off ? 'off' : shelf.sounds.toLocaleString('en')}</span>
        </button>
      </div>
      {job && isUnderWay(job) && <ShelfJob shelf={shelf} job={job} />}
      {job?.state === 'failed' && (
        <p className="flex items-baseline gap-2 px-1 text-gate">
          <span className="flex-1">Not indexed to the end: {job.message}</span>
          <Button onClick={() => void again({ id: job.id, pause: false })}>Try again</Button>
        </p>
      )}
      {open && <ShelfDialog shelf={shelf} job={job} onClose={() => setOpen(false)} />}
    </div>
  )
}
