import { cueCode, formatTimecode, FRAME_RATES, talksOf, type Talk } from '@yodel/core'
import { useMemo, useState } from 'react'
import { useCommands } from '../../commands/CommandsProvider.js'
import { useTables } from '../../document/useTables.js'
import { useAppDispatch } from '../../document/store.js'
import { viewActions } from '../../document/viewSlice.js'
import { useReel, useSession } from '../../session/session.js'
import { Button } from '../../ui/Button.js'
import { TalkView } from './TalkView.js'

/** All notes and questions of the reel by their places, the open ones first asked for; a press goes to the place. */
export function NotesPane() {
  const doc = useTables('note', 'cue')
  const { spot } = useCommands()
  const [all, setAll] = useState(false)
  const talks = useMemo(() => talksOf(doc), [doc])
  const shown = all ? talks : talks.filter(({ note }) => !note.closed)
  const closed = talks.length - talks.filter(({ note }) => !note.closed).length
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-3 py-2.5" data-notes>
      <div className="mb-2 flex flex-wrap gap-1.5">
        <Button onClick={() => spot.note()}>Write one here …</Button>
        {closed > 0 && (
          <Button look="bare" aria-pressed={all} onClick={() => setAll(!all)}>
            {all ? 'Only the open ones' : `${closed} closed …`}
          </Button>
        )}
      </div>
      {shown.length === 0 && (
        <p className="text-ink-2">
          {talks.length === 0 ? 'Nobody has noted or asked anything yet.' : 'Nothing is open.'}
        </p>
      )}
      {shown.map((talk) => (
        <section key={talk.note.id} className="mb-3" data-talk={talk.note.id}>
          <Place talk={talk} />
          <TalkView talk={talk} />
        </section>
      ))}
    </div>
  )
}

function Place({ talk: { note, frame } }: { talk: Talk }) {
  const dispatch = useAppDispatch()
  const { transport } = useSession()
  const reel = useReel()
  const cue = useTables('cue').cue.get(note.cueId ?? '')
  const go = (): void => {
    dispatch(viewActions.select([cue?.id ?? note.id]))
    transport.goToFrame(frame)
  }
  return (
    <button
      type="button"
      onClick={go}
      className="mb-0.5 flex w-full items-baseline gap-2 text-left hover:underline"
    >
      <span className="font-mono text-[11px] text-ink-2">
        {formatTimecode(reel.firstFrame + frame, FRAME_RATES[reel.rate])}
      </span>
      {cue && (
        <span className={`ink-${cue.category} min-w-0 truncate text-[12px]`}>
          <b className="text-(--cat)">{cueCode(cue)}</b> {cue.words}
        </span>
      )}
    </button>
  )
}
