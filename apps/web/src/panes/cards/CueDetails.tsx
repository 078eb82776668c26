import {
  CATEGORIES,
  CATEGORY_NAMES,
  coverageOf,
  cueCode,
  cueStateSchema,
  editCue,
  FRAME_RATES,
  formatLength,
  PRIORITY_NAMES,
  STATE_NAMES,
  type Cue,
  type CueFields,
} from '@yodel/core'
import { KeyOf } from '../../actions/useKeys.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { STATE_MARKS } from '../../ui/stateMarks.js'
import { Button, Chip } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { TextField } from '../../ui/TextField.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { edit } from '../../document/edit.js'
import { useReel } from '../../session/session.js'
import { NotesPart } from './NotesPart.js'
import { Row } from '../../ui/Row.js'
import { Shortlist } from './Shortlist.js'
import { TakesPart } from './TakesPart.js'
import { TimeField } from './TimeField.js'
import { VoicePart } from './VoicePart.js'

const STATES = cueStateSchema.options.map(
  (state) => [state, `${STATE_MARKS[state]} ${STATE_NAMES[state]}`] as const,
)
const SCREENS = [
  ['unsaid', '—'],
  ['on', 'on'],
  ['off', 'off'],
] as const
const PERSPECTIVES = [
  ['unsaid', '—'],
  ['close', 'close'],
  ['medium', 'medium'],
  ['far', 'far'],
] as const
const PRIORITIES = PRIORITY_NAMES.map((name, index) => [String(index), name || '—'] as const)
const CATEGORY_OPTIONS = CATEGORIES.map((category) => [category, CATEGORY_NAMES[category]] as const)
const COVERAGE = { nothing: 'nothing placed', partly: 'partly covered', fully: 'covered' } as const

/** A cue: everything about it can be typed where it stands. */
export function CueDetails({ cue }: { cue: Cue }) {
  const dispatch = useAppDispatch()
  const commands = useCommands()
  const coverage = useAppSelector((state) => coverageOf(state.document.doc, cue))
  const wantsWords = useAppSelector((state) => state.view.typing === cue.id)
  const set = (fields: CueFields): boolean => dispatch(edit((doc) => editCue(doc, { id: cue.id, fields })))
  return (
    <div className={`ink-${cue.category}`}>
      <div className="flex items-center justify-between">
        <span className="flex items-baseline gap-1.5 text-[11px] font-bold tracking-wide text-(--cat)">
          {cueCode(cue)}
          <Choice
            label="Category"
            value={cue.category}
            options={CATEGORY_OPTIONS}
            onChange={(category) => set({ category })}
          />
        </span>
        <Chip>{COVERAGE[coverage]}</Chip>
      </div>
      <TextField
        label="What is heard"
        value={cue.words}
        placeholder="What is heard?"
        multiline
        autoFocusKey={wantsWords ? cue.id : null}
        onDone={commands.spot.typed}
        className="mt-1 resize-none text-[16px] leading-[1.2] font-bold [field-sizing:content]"
        onCommit={(words) => set({ words })}
      />
      <VoicePart cue={cue} />
      <TakesPart cueId={cue.id} />
      <Shortlist cueId={cue.id} />
      <dl className="mt-2 grid grid-cols-[72px_1fr] gap-x-2 gap-y-1 text-[12px]">
        <Times cue={cue} set={set} />
        <State cue={cue} set={set} />
        <About cue={cue} set={set} />
      </dl>
      <div className="mt-3 flex flex-wrap gap-1.5">
        <Button look="strong" onClick={commands.tries.here}>
          Try sounds <KeyOf action="try" onDark />
        </Button>
        <Button onClick={() => set({ state: cue.state === 'omitted' ? 'open' : 'omitted' })}>
          {cue.state === 'omitted' ? 'Take in again' : 'Omit'}
        </Button>
        <Button onClick={commands.shape.remove}>
          Delete <KeyOf action="delete" />
        </Button>
      </div>
      <NotesPart cueId={cue.id} frame={cue.sync} />
    </div>
  )
}

interface Part {
  cue: Cue
  /** Says whether the fields could be set. */
  set: (fields: CueFields) => boolean
}

function Times({ cue, set }: Part) {
  const rate = FRAME_RATES[useReel().rate]
  return (
    <>
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
    </>
  )
}

function State({ cue, set }: Part) {
  return (
    <>
      <Row name="State">
        <Choice label="State" value={cue.state} options={STATES} onChange={(state) => set({ state })} />
      </Row>
      {cue.state === 'omitted' && (
        <Row name="Because">
          <TextField
            label="Reason for omitting"
            value={cue.omitReason}
            placeholder="Why is it omitted?"
            onCommit={(omitReason) => set({ omitReason })}
          />
        </Row>
      )}
    </>
  )
}

function About({ cue, set }: Part) {
  return (
    <>
      <Row name="Made by">
        <TextField
          label="Made by"
          value={cue.source}
          placeholder="—"
          onCommit={(source) => set({ source })}
        />
      </Row>
      <Row name="Where">
        <TextField label="Where" value={cue.where} placeholder="—" onCommit={(where) => set({ where })} />
      </Row>
      <Row name="On screen">
        <Choice
          label="On screen"
          value={cue.onScreen}
          options={SCREENS}
          onChange={(onScreen) => set({ onScreen })}
        />
      </Row>
      <Row name="Distance">
        <Choice
          label="Perspective"
          value={cue.perspective}
          options={PERSPECTIVES}
          onChange={(perspective) => set({ perspective })}
        />
      </Row>
      <Row name="Scene">
        <TextField label="Scene" value={cue.scene} placeholder="—" onCommit={(scene) => set({ scene })} />
      </Row>
      <Row name="Priority">
        <Choice
          label="Priority"
          value={String(cue.priority)}
          options={PRIORITIES}
          onChange={(priority) => set({ priority: Number(priority) })}
        />
      </Row>
      <Row name="Who">
        <TextField label="Who does it" value={cue.by} placeholder="—" onCommit={(by) => set({ by })} />
      </Row>
      <Row name="Remarks">
        <TextField
          label="Remarks"
          value={cue.notes}
          placeholder="—"
          multiline
          className="resize-none [field-sizing:content]"
          onCommit={(notes) => set({ notes })}
        />
      </Row>
    </>
  )
}
