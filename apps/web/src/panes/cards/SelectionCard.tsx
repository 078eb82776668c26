import {
  clipsByGroup,
  FRAME_RATES,
  formatTimecode,
  withStacks,
  type ReelDocument,
  type Stack,
} from '@yodel/core'
import { KeyOf } from '../../actions/useKeys.js'
import { useAppSelector } from '../../document/store.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { Button, Kbd } from '../../ui/Button.js'
import { useReel } from '../../session/session.js'
import { ClipCard } from './ClipCard.js'
import { CueDetails } from './CueDetails.js'
import { Row } from '../../ui/Row.js'
import { NotesPart } from './NotesPart.js'
import { SeveralCard } from './SeveralCard.js'
import { StackCard } from './StackCard.js'
import { TrackCard } from './TrackCard.js'

/** The card of what is selected: a cue, a sound, several, or the reel's facts; a note that is being written at a frame comes first. */
export function SelectionCard() {
  return (
    <div className="min-h-0 flex-1 overflow-y-auto bg-card px-3.5 py-3" data-card>
      <Selected />
    </div>
  )
}

function Selected() {
  const selected = useAppSelector((state) => state.view.selected)
  const opened = useAppSelector((state) => state.view.openStacks)
  const noting = useAppSelector((state) => state.view.noting)
  const doc = useAppSelector((state) => state.document.doc)
  if (noting !== null && noting.cueId === null) return <NotesPart cueId={null} frame={noting.frame} />
  const stack = stackChosen(doc, selected, opened)
  if (stack) return <StackCard key={stack.id} stack={stack} layers={clipsByGroup(doc).get(stack.id) ?? []} />
  // What was taken back stays selected, in case it comes again.
  const there = selected.filter((id) => recordOf(doc, id))
  if (there.length > 1) return <SeveralCard ids={there} />
  const only = there[0] ?? ''
  const record = recordOf(doc, only)
  switch (record?.kind) {
    case 'cue':
      return <CueDetails key={only} cue={record} />
    case 'clip':
      return <ClipCard key={only} clip={record} />
    case 'track':
      return <TrackCard key={only} track={record} />
    case 'note':
      return <NotesPart key={only} cueId={null} noteId={only} frame={record.frame} />
    case undefined:
      return <ReelFacts />
  }
}

const recordOf = (doc: ReelDocument, id: string) =>
  doc.cue.get(id) ?? doc.clip.get(id) ?? doc.track.get(id) ?? doc.note.get(id)

/** The stack that is selected as one thing, and nothing else; null where it is not so. */
function stackChosen(
  doc: ReelDocument,
  selected: readonly string[],
  opened: readonly string[],
): Stack | null {
  const there = withStacks(doc, selected, opened).filter((id) => doc.clip.has(id) || doc.cue.has(id))
  const stack = doc.stack.get(doc.clip.get(there[0] ?? '')?.group ?? '')
  const layers = stack ? (clipsByGroup(doc).get(stack.id) ?? []) : []
  return stack && layers.length === there.length && layers.every(({ id }) => there.includes(id))
    ? stack
    : null
}

function ReelFacts() {
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const doc = useAppSelector((state) => state.document.doc)
  const drafting = useAppSelector((state) => state.drafting.id !== null)
  const { draft } = useCommands()
  const tc = (frame: number): string => formatTimecode(reel.firstFrame + frame, rate)
  return (
    <>
      <h2 className="text-[16px] leading-tight font-bold">{reel.name}</h2>
      <p className="text-ink-2">{reel.show}</p>
      <dl className="mt-3 grid grid-cols-[84px_1fr] gap-x-2 gap-y-1.5 text-[12px]">
        <Row name="First frame">
          <span className="font-mono">{tc(0)}</span>
        </Row>
        <Row name="Programme">
          <span className="font-mono">{tc(reel.programme)}</span>
        </Row>
        <Row name="Ends">
          <span className="font-mono">{tc(reel.length)}</span>
        </Row>
        <Row name="Rate">{rate.label}, 48 kHz, 24 bit</Row>
        <Row name="Sounds">
          {doc.clip.size} placed on {doc.track.size} tracks
        </Row>
      </dl>
      <p className="mt-4 text-[12px] text-ink-2">
        <Kbd>1</Kbd> to <Kbd>6</Kbd> drop a cue at the gate. <KeyOf action="keys" /> lists every key.
      </p>
      {doc.cue.size > 0 && !drafting && (
        <p className="mt-2 text-[12px] text-ink-2">
          <Button onClick={draft.toggle}>
            Draft <KeyOf action="draft" />
          </Button>{' '}
          finds first choices for all cues without sounds.
        </p>
      )}
    </>
  )
}
