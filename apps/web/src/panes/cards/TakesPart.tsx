import {
  deleteRecords,
  formatLength,
  FRAME_RATES,
  laidTake,
  sampleToFrame,
  takesOf,
  type Candidate,
} from '@yodel/core'
import { X } from 'lucide-react'
import { useMemo } from 'react'
import { KeyOf } from '../../actions/useKeys.js'
import { api } from '../../api/api.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { useTables } from '../../document/useTables.js'
import { useReel } from '../../session/session.js'
import { Button, Chip } from '../../ui/Button.js'
import { Wave } from '../../ui/Wave.js'

const WAVE = { width: 116, height: 22 }

/** The takes that were recorded for a cue: hearing them against the picture, and keeping the best. */
export function TakesPart({ cueId }: { cueId: string }) {
  const { record } = useCommands()
  const doc = useTables('candidate', 'clip')
  const takes = useMemo(() => takesOf(doc, cueId), [doc, cueId])
  const laid = useMemo(() => laidTake(doc, cueId)?.soundId, [doc, cueId])
  const isOn = useAppSelector((state) => state.recording.on)
  if (takes.length === 0 && !isOn) return null
  return (
    <section className="mt-2 border-t border-hair pt-1.5" aria-label="Takes" data-takes={takes.length}>
      <h3 className="flex items-center gap-1 text-[11px] font-bold tracking-wide text-ink-2">
        <span className="flex-1">Takes</span>
        <Button look="bare" className="px-1.5" onClick={() => void record.take()}>
          Record <KeyOf action="record" />
        </Button>
      </h3>
      {takes.length === 0 && <p className="text-[11.5px] text-ink-2">None yet.</p>}
      <ol>
        {takes.map((take) => (
          <TakeLine key={take.id} take={take} isLaid={take.soundId === laid} />
        ))}
      </ol>
    </section>
  )
}

function TakeLine({ take, isLaid }: { take: Candidate; isLaid: boolean }) {
  const dispatch = useAppDispatch()
  const { record, shortlist } = useCommands()
  const rate = FRAME_RATES[useReel().rate]
  const { data = [] } = api.useSoundsByIdsQuery([take.soundId])
  const [sound] = data
  const tried = useAppSelector((state) => (state.trying.place ? state.trying.sound?.id : undefined))
  const from = take.in ?? 0
  const to = take.out ?? sound?.length ?? from + 1
  const isHeard = tried === take.soundId
  return (
    <li
      className={`flex items-center gap-1.5 border-t border-hair py-1 pl-2 ${isHeard ? 'bg-paper shadow-[inset_4px_0_0_var(--gate)]' : ''}`}
      data-take={take.take}
    >
      <button
        type="button"
        className="flex min-h-6 min-w-0 flex-1 items-center gap-2 text-left hover:underline"
        title={`Try ${take.name} against the picture`}
        onClick={() => void shortlist.tryCandidate(take)}
      >
        <b className="font-mono text-[12px]">{take.take}</b>
        <span className="min-w-0">
          <Wave
            mediaId={take.soundId}
            from={from}
            to={to}
            {...WAVE}
            colour={isHeard ? '--gate' : '--ink-2'}
          />
          <span className="block truncate font-mono text-[11px] text-ink-2">
            {formatLength(sampleToFrame(to - from, rate), rate)}
            {sound && ` · ${sound.truePeak.toFixed(0)} dBTP`}
          </span>
        </span>
      </button>
      {isLaid ? (
        <Chip>best</Chip>
      ) : (
        <Button
          className="px-1.5 py-0"
          title="Lay it where it was performed"
          onClick={() => void record.keep(take)}
        >
          Keep
        </Button>
      )}
      <button
        type="button"
        className="grid size-6 shrink-0 place-items-center rounded-[3px] text-ink-2 hover:text-ink"
        aria-label={`Take ${take.name} off the cue`}
        onClick={() => dispatch(edit((doc) => deleteRecords(doc, { ids: [take.id] })))}
      >
        <X size={13} />
      </button>
    </li>
  )
}
