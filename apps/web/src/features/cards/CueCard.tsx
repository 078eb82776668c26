import { CATEGORY_NAMES, coverageOf, cueCode, cueStateSchema, editCue, FRAME_RATES, formatLength, STATE_NAMES, type Cue } from '@yodel/core'
import { useAppDispatch, useAppSelector } from '../../app/store.js'
import { STATE_MARKS } from '../../sheet/FixedLanes.js'
import { Button, Chip, Kbd } from '../../ui/Button.js'
import { TextField } from '../../ui/TextField.js'
import { useCommands } from '../reel/commands.js'
import { edit } from '../reel/edits.js'
import { useReel } from '../reel/session.js'
import { Row } from './SelectionCard.js'
import { TimeField } from './TimeField.js'

const COVERAGE = { nothing: 'nothing placed', partly: 'partly covered', fully: 'covered' } as const

/** A cue: everything about it can be typed where it stands. */
export function CueCard({ cue }: { cue: Cue }) {
  const dispatch = useAppDispatch()
  const commands = useCommands()
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const coverage = useAppSelector((state) => coverageOf(state.document.doc, cue))
  const wantsWords = useAppSelector((state) => state.view.typing === cue.id)
  const set = (fields: Partial<Omit<Cue, 'kind' | 'id'>>): boolean => dispatch(edit((doc) => editCue(doc, { id: cue.id, fields })))
  return (
    <div className={`ink-${cue.category}`}>
      <div className="flex items-center justify-between">
        <span className="text-[11px] font-bold tracking-wide text-(--cat)" title={CATEGORY_NAMES[cue.category]}>
          {cueCode(cue)}
        </span>
        <Chip>{COVERAGE[coverage]}</Chip>
      </div>
      <TextField
        label="What is heard"
        value={cue.words}
        placeholder="What is heard?"
        multiline
        autoFocusKey={wantsWords ? cue.id : null}
        onDone={commands.typed}
        className="mt-1 resize-none text-[16px] leading-[1.2] font-bold [field-sizing:content]"
        onCommit={(words) => set({ words })}
      />
      <dl className="mt-2 grid grid-cols-[72px_1fr] gap-x-2 gap-y-1 text-[12px]">
        <Row name="In">
          <TimeField label="In" frame={cue.in} onCommit={(frame) => set({ in: frame })} />
        </Row>
        <Row name="Sync">
          <TimeField label="Sync" frame={cue.sync} onCommit={(frame) => set({ sync: frame })} />
        </Row>
        <Row name="Out">
          <span className="flex items-baseline gap-2">
            <TimeField label="Out" frame={cue.out} onCommit={(frame) => set({ out: frame })} />
            <span className="font-mono text-ink-3">{formatLength(cue.out - cue.in, rate)}</span>
          </span>
        </Row>
        <Row name="State">
          <select
            aria-label="State"
            value={cue.state}
            onChange={(event) => set({ state: cueStateSchema.parse(event.target.value) })}
            className="rounded-[3px] border border-line bg-card py-0.5"
          >
            {cueStateSchema.options.map((state) => (
              <option key={state} value={state}>
                {STATE_MARKS[state]} {STATE_NAMES[state]}
              </option>
            ))}
          </select>
        </Row>
        {cue.state === 'omitted' && (
          <Row name="Because">
            <TextField label="Reason for omitting" value={cue.omitReason} placeholder="Why is it omitted?" onCommit={(omitReason) => set({ omitReason })} />
          </Row>
        )}
        <Row name="Made by">
          <TextField label="Made by" value={cue.source} placeholder="—" onCommit={(source) => set({ source })} />
        </Row>
        <Row name="Where">
          <TextField label="Where" value={cue.where} placeholder="—" onCommit={(where) => set({ where })} />
        </Row>
        <Row name="On screen">
          <select
            aria-label="On screen"
            value={cue.onScreen}
            onChange={(event) => set({ onScreen: event.target.value as Cue['onScreen'] })}
            className="rounded-[3px] border border-line bg-card py-0.5"
          >
            <option value="unsaid">—</option>
            <option value="on">on</option>
            <option value="off">off</option>
          </select>
        </Row>
        <Row name="Note">
          <TextField label="Note" value={cue.notes} placeholder="—" multiline className="resize-none [field-sizing:content]" onCommit={(notes) => set({ notes })} />
        </Row>
      </dl>
      <div className="mt-3 flex flex-wrap gap-1.5">
        <Button look="strong" onClick={commands.tryHere}>
          Try sounds <Kbd onDark>T</Kbd>
        </Button>
        <Button onClick={() => set({ state: cue.state === 'omitted' ? 'open' : 'omitted' })}>{cue.state === 'omitted' ? 'Take in again' : 'Omit'}</Button>
        <Button onClick={commands.remove}>
          Delete <Kbd>Del</Kbd>
        </Button>
      </div>
    </div>
  )
}
