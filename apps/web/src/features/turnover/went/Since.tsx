import {
  changesSince,
  documentOf,
  formatTimecode,
  FRAME_RATES,
  type KeptTurnover,
  type SinceLine,
} from '@yodel/core'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { api, messageOf } from '../../../api/api.js'
import { useCommands } from '../../../commands/CommandsProvider.js'
import { useAppSelector } from '../../../document/store.js'
import { useReel } from '../../../session/session.js'
import { Button } from '../../../ui/Button.js'

/** As many lines are shown before one asks for the others. */
const SHOWN = 30
const MARKS = { come: '+', gone: '−', moved: '↔', swapped: '⇄', changed: '·' } as const

/** What has changed on the reel since a turnover, by time, each line leading to its place on the Sheet; and as a paper for the stage. */
export function Since({ turnover: { id, seq, number, name } }: { turnover: KeptTurnover }) {
  const reel = useReel()
  const doc = useAppSelector((state) => state.document.doc)
  const commands = useCommands()
  const navigate = useNavigate()
  const { data, error } = api.useReelAtQuery({ reelId: reel.id, seq })
  const lines = useMemo(() => (data ? changesSince(documentOf(data.records), doc) : null), [data, doc])
  const [all, setAll] = useState(false)
  if (error) return <p className="ml-8 text-gate">{messageOf(error)}</p>
  if (!lines) return <p className="ml-8 text-ink-2">Comparing …</p>
  if (lines.length === 0) return <p className="ml-8 text-ink-2">Nothing has changed since.</p>
  const go = (index: number): void => {
    commands.findings.since(`turnover ${number}, ${name}`, lines, index)
    void navigate(`/reels/${reel.id}`)
  }
  const shown = all ? lines : lines.slice(0, SHOWN)
  return (
    <div className="ml-8 text-[12px]" data-since={lines.length}>
      <a
        className="underline decoration-line hover:decoration-ink"
        href={`/api/turnovers/${id}/since.pdf`}
        download
      >
        Change notes, PDF
      </a>
      <ul className="mt-1 max-h-80 overflow-y-auto">
        {shown.map((line, index) => (
          <Line key={`${line.what} ${line.id}`} line={line} onGo={() => go(index)} />
        ))}
      </ul>
      {shown.length < lines.length && (
        <Button look="bare" onClick={() => setAll(true)}>
          {lines.length - shown.length} more
        </Button>
      )}
    </div>
  )
}

function Line({ line: { kind, what, at, name, text }, onGo }: { line: SinceLine; onGo: () => void }) {
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  return (
    <li className="flex gap-2 py-0.5" data-since-kind={kind}>
      <span className="w-3 text-center font-mono" title={kind}>
        {MARKS[kind]}
      </span>
      {at ? (
        <button
          type="button"
          className="font-mono underline decoration-line hover:decoration-ink"
          onClick={onGo}
        >
          {formatTimecode(reel.firstFrame + at.from, rate)}
        </button>
      ) : (
        <span className="w-[88px] text-ink-3">{what}</span>
      )}
      <span className="min-w-0 flex-1">
        <b className="font-semibold">{name}</b> {text}
      </span>
    </li>
  )
}
