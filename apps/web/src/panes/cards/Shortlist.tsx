import { deleteRecords, rankCandidate, remarkCandidate, shortlistOf, type Candidate } from '@yodel/core'
import { KeyOf } from '../../actions/useKeys.js'
import { ArrowUp, X } from 'lucide-react'
import { useMemo } from 'react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { TextField } from '../../ui/TextField.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { edit } from '../../document/edit.js'

const SMALL =
  'grid size-6 shrink-0 place-items-center rounded-[3px] text-ink-2 hover:text-ink disabled:opacity-35'

/** The sounds that came near for a cue, in the order in which they are liked, each with a remark. */
export function Shortlist({ cueId }: { cueId: string }) {
  const commands = useCommands()
  const table = useAppSelector((state) => state.document.doc.candidate)
  // Takes stand there, too; they are shown by themselves.
  const list = useMemo(
    () => shortlistOf({ candidate: table }, cueId).filter(({ take }) => take === 0),
    [table, cueId],
  )
  const chosen = useAppSelector((state) => state.trying.sound !== null)
  const tried = useAppSelector((state) => (state.trying.place ? state.trying : null))
  // An empty one takes no room from the cue.
  if (list.length === 0 && !chosen) return null
  return (
    <section className="mt-2" aria-label="Shortlist" data-shortlist>
      <h3 className="flex flex-wrap items-center justify-end gap-x-1 text-[11px] font-bold tracking-wide text-ink-2">
        <span className="mr-auto">Shortlist</span>
        {list.length > 0 && (
          <Button look="bare" className="px-1.5" onClick={() => commands.shortlist.tryNext()}>
            Try next <KeyOf action="try-shortlist" />
          </Button>
        )}
        {chosen && (
          <Button look="bare" className="px-1.5" onClick={commands.shortlist.add}>
            Add <KeyOf action="put-on-shortlist" />
          </Button>
        )}
      </h3>
      <ol>
        {list.map((candidate, index) => (
          <Line
            key={candidate.id}
            candidate={candidate}
            rank={index + 1}
            heard={tried?.sound?.id === candidate.soundId && tried.prepared.in === candidate.in}
            onTry={() => void commands.shortlist.tryCandidate(candidate, list[(index + 1) % list.length])}
          />
        ))}
      </ol>
    </section>
  )
}

function Line({
  candidate,
  rank,
  heard,
  onTry,
}: {
  candidate: Candidate
  rank: number
  heard: boolean
  onTry: () => void
}) {
  const dispatch = useAppDispatch()
  const { id, name, remark } = candidate
  return (
    <li
      className={`border-t border-hair py-1 ${heard ? 'bg-paper shadow-[inset_4px_0_0_var(--gate)]' : ''}`}
      data-candidate={candidate.soundId}
    >
      <div className="flex items-center gap-1.5 pl-2">
        <span className="font-mono text-[11.5px] text-ink-3">{rank}</span>
        <button
          type="button"
          className="min-h-6 min-w-0 flex-1 truncate text-left text-[12.5px] font-semibold hover:underline"
          title={`Try ${name} against the picture`}
          onClick={onTry}
        >
          {name}
        </button>
        <button
          type="button"
          className={SMALL}
          aria-label={`Rank ${name} higher`}
          disabled={rank === 1}
          onClick={() => dispatch(edit((doc) => rankCandidate(doc, { id, by: -1 })))}
        >
          <ArrowUp size={13} />
        </button>
        <button
          type="button"
          className={SMALL}
          aria-label={`Take ${name} off the shortlist`}
          onClick={() => dispatch(edit((doc) => deleteRecords(doc, { ids: [id] })))}
        >
          <X size={13} />
        </button>
      </div>
      <TextField
        label={`Remark on ${name}`}
        value={remark}
        placeholder="Remark"
        className="ml-5 !w-[calc(100%-24px)] text-[11.5px]"
        onCommit={(text) => dispatch(edit((doc) => remarkCandidate(doc, { id, remark: text.trim() })))}
      />
    </li>
  )
}
