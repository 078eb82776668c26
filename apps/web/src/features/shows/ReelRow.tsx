import { FRAME_RATES, formatLength, formatTimecode, type ReelProgress, type ReelSummary } from '@yodel/core'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { api, messageOf } from '../../api/api.js'
import { TextField } from '../../ui/TextField.js'
import { Button } from '../../ui/Button.js'
import { Menu } from '../../ui/Menu.js'
import { when } from '../../ui/when.js'
import { Refusal } from '../../ui/Refusal.js'
import { ReelLanes } from './ReelLanes.js'

/** A reel as the start page shows it: its poster, its cues, how far it has come. */
export function ReelRow({ summary }: { summary: ReelSummary }) {
  const { id, reel } = summary
  const { data: progress, error } = api.useReelProgressQuery(id, {
    refetchOnMountOrArgChange: true,
    refetchOnFocus: true,
  })
  const [renaming, setRenaming] = useState(false)
  const [rename, renamed] = api.useRenameReelMutation()
  const rate = FRAME_RATES[reel.rate]
  // Frames are of no use here.
  const minutes = formatLength(reel.length, rate).replace(/\D\d+$/, '')
  const cut = progress?.picture?.name ?? (progress ? 'no picture yet' : '')
  return (
    <li
      className="group relative grid grid-cols-[176px_minmax(0,1fr)_150px] gap-5 border-t border-line py-3.5 hover:bg-card/60"
      data-reel={id}
    >
      <Link to={`/reels/${id}`} tabIndex={-1} aria-hidden className="block">
        <Poster pictureId={progress?.picture?.id ?? null} />
      </Link>
      <div className="min-w-0">
        {renaming ? (
          <TextField
            label="Name of the reel"
            value={reel.name}
            autoFocusKey={id}
            className="relative z-10 max-w-[360px] border-line! bg-card text-[15px] font-bold"
            onCommit={(text) => {
              if (text.trim() === '') return false
              void rename({ id, name: text.trim() })
            }}
            onDone={() => setRenaming(false)}
          />
        ) : (
          <Link to={`/reels/${id}`} className="block truncate before:absolute before:inset-0">
            <b className="text-[15px] font-bold">{reel.name}</b>{' '}
            <span className="text-ink-2">
              {cut}
              {cut && ', '}
              {minutes}, {rate.label}
            </span>
          </Link>
        )}
        <p className="truncate text-ink-2">
          <span className="font-mono text-[12px]">
            {formatTimecode(reel.firstFrame + reel.programme, rate)}
          </span>
          {progress && ` · changed ${when(progress.changedAt, true)} by ${progress.changedBy}`}
        </p>
        <ReelLanes cues={progress?.cues ?? []} length={reel.length} />
      </div>
      <div className="flex flex-col">
        {progress && <Counts progress={progress} sounds={summary.clips} />}
        <Refusal text={(error ?? renamed.error) && messageOf(error ?? renamed.error)} />
      </div>
      <div className="absolute top-3 right-0 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
        <ReelMenu id={id} name={reel.name} onRename={() => setRenaming(true)} />
      </div>
    </li>
  )
}

function Counts({ progress, sounds }: { progress: ReelProgress; sounds: number }) {
  const { cues, open, covered, approved, questions } = progress
  const line = (count: number, words: React.ReactNode) => (
    <p className="flex gap-2.5">
      <b className="w-8 text-right font-mono text-[12px] leading-[1.55] font-semibold">{count}</b>
      <span>{words}</span>
    </p>
  )
  return (
    <div className="text-[12.5px] leading-[1.55]">
      {line(cues.length, <>cues{open > 0 && <span className="text-gate">, {open} open</span>}</>)}
      {line(covered, 'covered by sounds')}
      {line(approved, 'approved')}
      {line(sounds, 'sounds placed')}
      {questions.length > 0 &&
        line(questions.length, questions.length === 1 ? 'question open' : 'questions open')}
    </div>
  )
}

/** Milliseconds until a poster that is not made yet is asked for again; each time twice as long, up to the longest. */
const AGAIN_MS = 2000
const LONGEST_MS = 60_000

/** A frame of a picture; an empty plate where there is none, or none yet. */
function Poster({ pictureId }: { pictureId: string | null }) {
  const [tries, setTries] = useState(0)
  const [failed, setFailed] = useState(false)
  useEffect(() => {
    if (!failed) return
    const again = setTimeout(
      () => {
        setTries(tries + 1)
        setFailed(false)
      },
      Math.min(LONGEST_MS, AGAIN_MS * 2 ** tries),
    )
    return () => clearTimeout(again)
  }, [failed, tries])
  return (
    <div className="aspect-video overflow-hidden rounded-[2px] bg-paper-3">
      {pictureId !== null && !failed && (
        <img
          src={`/api/pictures/${pictureId}/poster${tries > 0 ? `?again=${tries}` : ''}`}
          alt=""
          className="size-full object-cover"
          onError={() => setFailed(true)}
        />
      )}
    </div>
  )
}

function ReelMenu({ id, name, onRename }: { id: string; name: string; onRename: () => void }) {
  const [throwAway, { error }] = api.useThrowReelMutation()
  return (
    <div className="relative z-10">
      <Menu name="…" label={`More of ${name}`} right small>
        <Button look="bare" className="justify-start" onClick={onRename}>
          Rename …
        </Button>
        <Button look="bare" className="justify-start" onClick={() => void throwAway(id)}>
          Throw away
        </Button>
        <p className="px-2.5 text-[11px] text-ink-3">For thirty days it can be brought back.</p>
        {error ? <p className="px-2.5 text-gate">{messageOf(error)}</p> : null}
      </Menu>
    </div>
  )
}
