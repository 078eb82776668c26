import { cueCode, formatTimecode, FRAME_RATES, type Cue } from '@yodel/core'
import { X } from 'lucide-react'
import { KeyOf } from '../../actions/useKeys.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { draftActions, type DraftEntry } from '../../document/draftSlice.js'
import { choicesAbove, isOpen, shownEntry } from '../../document/drafted.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { useTables } from '../../document/useTables.js'
import { useReel } from '../../session/session.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'

/** Lines that can be drawn through a draft, in per cent. */
const LINES = [90, 80, 70, 60, 50, 40]

/** A draft of the reel above the Sheet: the cue that is looked at, its choice, how sure that is and why, and what can be said of it. */
export function DraftStrip() {
  const isOn = useAppSelector((state) => state.drafting.id !== null)
  return isOn ? <Strip /> : null
}

function Strip() {
  const { draft } = useCommands()
  const drafting = useAppSelector((state) => state.drafting)
  const { entries, waiting, trouble } = drafting
  const doc = useTables('reel', 'cue', 'clip')
  const entry = shownEntry(drafting)
  const cue = doc.cue.get(entry?.cueId ?? '')
  const open = entries.filter((one) => isOpen(doc, one)).length
  const all = entries.length + waiting.length
  return (
    <section
      className="flex shrink-0 flex-col gap-1 border-b border-line bg-card px-3 py-1.5 text-[12.5px]"
      aria-label="Draft"
      data-draft={waiting.length === 0 ? 'whole' : 'growing'}
    >
      <div className="flex min-h-6 items-center gap-2">
        {entry && cue ? (
          <Shown entry={entry} cue={cue} />
        ) : (
          <span className="min-w-0 flex-1 truncate">
            {open > 0
              ? 'Nothing of it is in the reel before you keep it.'
              : waiting.length > 0
                ? 'Looking for first choices …'
                : 'Nothing of the draft is open.'}
          </span>
        )}
        <Button look="bare" className="px-1.5!" aria-label="End the draft" onClick={draft.toggle}>
          <X size={15} />
        </Button>
      </div>
      <div className="flex flex-wrap items-center gap-1.5">
        {entry && cue ? (
          <>
            <Button look="gate" onClick={draft.keep}>
              Keep <KeyOf action="enter" onDark />
            </Button>
            <Button onClick={() => void draft.beside(1)}>
              Next candidate <KeyOf action="next-frame" />
            </Button>
            <Button onClick={draft.skip}>
              Skip <KeyOf action="next-cue" />
            </Button>
          </>
        ) : (
          <Button look="strong" disabled={open === 0} onClick={draft.next}>
            Go through them
          </Button>
        )}
        <KeepAbove />
        <span className="ml-auto font-mono text-[11.5px] whitespace-nowrap text-ink-2" role="status">
          {waiting.length > 0 ? `${entries.length} of ${all} drafted` : `${open} of ${all} open`}
        </span>
        {trouble && (
          <span className="text-gate" role="alert">
            {trouble}
          </span>
        )}
      </div>
    </section>
  )
}

/** The cue, the candidate that is meant for it among the others, how sure that is and why. */
function Shown({ entry, cue }: { entry: DraftEntry; cue: Cue }) {
  const { draft } = useCommands()
  const { rate, firstFrame } = useReel()
  const choice = entry.ranked[entry.at]
  const per = (sure: number): string => `${Math.round(sure * 100)} %`
  return (
    <>
      <span className="font-mono text-[11.5px] text-ink-2">
        {formatTimecode(firstFrame + cue.sync, FRAME_RATES[rate])}
      </span>
      <span className={`ink-${cue.category} min-w-0 shrink truncate`} title={cue.words}>
        <b className="text-(--cat)">{cueCode(cue)}</b> {cue.words}
      </span>
      <Choice
        label="Candidate"
        className="max-w-[230px] shrink-0 font-semibold!"
        value={String(entry.at)}
        options={entry.ranked.map(
          ({ sound, sure }, index) => [String(index), `${sound.name} · ${per(sure)}`] as const,
        )}
        onChange={(at) => void draft.choose(Number(at))}
        givesBack
      />
      {choice && (
        <span className="min-w-0 flex-1 truncate text-[12px] text-ink-2" title={choice.why.join('; ')}>
          <span
            className="mr-1.5 inline-block h-2 w-10 bg-line"
            role="img"
            aria-label={`${per(choice.sure)} sure`}
          >
            <span className="block h-full bg-ink" style={{ width: per(choice.sure).replace(' ', '') }} />
          </span>
          {choice.why.join('; ')}
        </span>
      )}
    </>
  )
}

/** Everything above a line at once. */
function KeepAbove() {
  const dispatch = useAppDispatch()
  const { draft } = useCommands()
  const drafting = useAppSelector((state) => state.drafting)
  const doc = useTables('reel', 'cue', 'clip')
  const count = choicesAbove(doc, drafting).length
  return (
    <span className="flex items-center gap-1.5">
      <Button disabled={count === 0} onClick={draft.keepAbove}>
        Keep all {count}
      </Button>
      <span className="text-ink-2">that are</span>
      <Choice
        label="How sure at least"
        value={String(Math.round(drafting.line * 100))}
        options={LINES.map((per) => [String(per), `${per} %`] as const)}
        onChange={(per) => dispatch(draftActions.setLine(Number(per) / 100))}
        givesBack
      />
      <span className="text-ink-2">sure</span>
    </span>
  )
}
