import type { Job, Shelf } from '@yodel/core'
import { api } from '../../../api/api.js'
import { Button } from '../../../ui/Button.js'
import { Overlay } from '../../../ui/Overlay.js'
import { TextField } from '../../../ui/TextField.js'
import { isUnderWay } from '../../../session/useJob.js'
import { ShelfJob } from './ShelfJob.js'

const COUNTS = [
  ['fresh', 'new'],
  ['changed', 'changed'],
  ['moved', 'moved'],
  ['same', 'as before'],
  ['gone', 'gone'],
  ['problems', 'could not be read'],
] as const

/** How many files of which kinds are no recordings; empty where all are. */
function passedOver(counts: Shelf['counts']): string {
  const kinds = Object.entries(counts ?? {})
    .filter(([key]) => key.startsWith('.'))
    .sort((a, b) => b[1] - a[1])
  const all = kinds.reduce((sum, [, count]) => sum + count, 0)
  const named = kinds.slice(0, 6).map(([key, count]) => `${count} ${key === '.' ? 'without an ending' : key}`)
  return all === 0
    ? ''
    : `${all.toLocaleString('en')} files passed over, which are no recordings: ${named.join(', ')}${kinds.length > 6 ? ' …' : ''}`
}

/** Everything about one shelf: its name, what holds for its sounds, what the last look at its folder found. */
export function ShelfDialog({ shelf, job, onClose }: { shelf: Shelf; job: Job | null; onClose: () => void }) {
  const [edit] = api.useEditShelfMutation()
  const [again] = api.useIndexShelfMutation()
  const [remove] = api.useRemoveShelfMutation()
  const busy = job !== null && isUnderWay(job)
  const field = (name: 'name' | 'licence' | 'source', label: string, placeholder: string) => (
    <>
      <dt className="text-ink-3">{label}</dt>
      <dd>
        <TextField
          label={label}
          value={shelf[name]}
          placeholder={placeholder}
          onCommit={(text) =>
            name === 'name' && text.trim() === '' ? false : void edit({ id: shelf.id, [name]: text.trim() })
          }
        />
      </dd>
    </>
  )
  return (
    <Overlay open onClose={onClose} className="flex w-[620px] flex-col p-5">
      <h2 className="text-[16px] font-bold">{shelf.name}</h2>
      <p className="font-mono text-[11.5px] break-all text-ink-3">{shelf.root}</p>
      {shelf.away && (
        <p className="mt-1 text-gate">
          Its folder was not there at the last look. Its sounds stay in the index; connect the disk and index
          again.
        </p>
      )}
      <dl className="mt-3 grid grid-cols-[90px_1fr] items-baseline gap-x-3">
        {field('name', 'Name', '')}
        {field('licence', 'Licence', 'for sounds whose files name none')}
        {field('source', 'Source', 'for sounds whose files name none')}
        <dt className="text-ink-3">Seen by</dt>
        <dd>
          <label className="flex min-h-6 items-center gap-2">
            <input
              type="checkbox"
              checked={shelf.shared}
              onChange={() => void edit({ id: shelf.id, shared: !shelf.shared })}
            />{' '}
            everybody
          </label>
        </dd>
        <dt className="text-ink-3">Last look</dt>
        <dd>
          {shelf.counts
            ? COUNTS.map(([key, words]) => `${shelf.counts?.[key] ?? 0} ${words}`).join(', ')
            : 'not finished yet'}
          {passedOver(shelf.counts) !== '' && (
            <span className="block text-ink-2">{passedOver(shelf.counts)}</span>
          )}
        </dd>
        <dt className="text-ink-3">Changes</dt>
        <dd>{shelf.watched ? 'are noticed as they happen' : 'are found when it is indexed again'}</dd>
      </dl>
      {busy && <ShelfJob shelf={shelf} job={job} />}
      {shelf.problems.length > 0 && (
        <div className="mt-3 min-h-0 overflow-y-auto border-t border-line pt-2 text-[12px]">
          <b>{shelf.problems.length} could not be read, or not whole</b>
          <ul>
            {shelf.problems.map((problem) => (
              <li key={problem.path} className="py-0.5">
                <span className="font-mono">{problem.path}</span>: {problem.reason}
              </li>
            ))}
          </ul>
        </div>
      )}
      <div className="mt-4 flex gap-2">
        <Button look="strong" disabled={busy} onClick={() => void again(shelf.id)}>
          Index again
        </Button>
        <Button
          onClick={() => {
            void remove(shelf.id)
            onClose()
          }}
          title="The folder stays as it is; only the index forgets it."
        >
          Take out of the index
        </Button>
        <Button look="bare" className="ml-auto" onClick={onClose}>
          Close
        </Button>
      </div>
    </Overlay>
  )
}
