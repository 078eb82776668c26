import { FRAME_RATES, formatTimecode } from '@yodel/core'
import { useAppSelector } from '../../app/store.js'
import { Kbd } from '../../ui/Button.js'
import { useReel } from '../reel/session.js'
import { ClipCard } from './ClipCard.js'
import { CueCard } from './CueCard.js'
import { NotesPart } from './NotesPart.js'
import { SeveralCard } from './SeveralCard.js'
import { TrackCard } from './TrackCard.js'

/** The card of what is selected: a cue, a sound, several, or the reel's facts. */
export function SelectionCard() {
  const selected = useAppSelector((state) => state.view.selected)
  const doc = useAppSelector((state) => state.document.doc)
  const only = selected.length === 1 ? (selected[0] ?? '') : ''
  const cue = doc.cue[only]
  const clip = doc.clip[only]
  const track = doc.track[only]
  const note = doc.note[only]
  const noting = useAppSelector((state) => state.view.noting)
  return (
    <div className="min-h-0 flex-1 overflow-y-auto bg-card px-3.5 py-3" data-card>
      {cue ? (
        <CueCard key={cue.id} cue={cue} />
      ) : clip ? (
        <ClipCard key={clip.id} clip={clip} />
      ) : track ? (
        <TrackCard key={track.id} track={track} />
      ) : note ? (
        <NotesPart key={note.id} cueId={null} noteId={note.id} frame={note.frame} />
      ) : noting !== null && noting.cueId === null ? (
        <NotesPart cueId={null} frame={noting.frame} />
      ) : selected.length > 1 ? (
        <SeveralCard ids={selected} />
      ) : (
        <ReelFacts />
      )}
    </div>
  )
}

/** A row of a card: what, and how it stands. */
export function Row({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="pt-0.5 text-ink-3">{name}</dt>
      <dd className="min-w-0">{children}</dd>
    </>
  )
}

function ReelFacts() {
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const doc = useAppSelector((state) => state.document.doc)
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
          {Object.keys(doc.clip).length} placed on {Object.keys(doc.track).length} tracks
        </Row>
      </dl>
      <p className="mt-4 text-[12px] text-ink-2">
        <Kbd>1</Kbd> to <Kbd>6</Kbd> drop a cue at the gate. <Kbd>?</Kbd> lists every key.
      </p>
    </>
  )
}
