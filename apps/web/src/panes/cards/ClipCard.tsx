import {
  secondsOf,
  cueCode,
  FRAME_RATES,
  formatTimecode,
  sampleToFrame,
  samplesIn,
  shapeClips,
  type Clip,
  type FadeShape,
} from '@yodel/core'
import { KeyOf } from '../../actions/useKeys.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { inkOf } from '../../ui/ink.js'
import { Button } from '../../ui/Button.js'
import { TextField } from '../../ui/TextField.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { edit } from '../../document/edit.js'
import { useReel } from '../../session/session.js'
import { viewActions } from '../../document/viewSlice.js'
import { PlayedPart } from './PlayedPart.js'
import { ClipTreatment } from './ClipTreatment.js'
import { VoicePart } from './VoicePart.js'
import { Choice } from '../../ui/Choice.js'
import { Row } from '../../ui/Row.js'

type Shape = (fields: Parameters<typeof shapeClips>[1]['fields']) => boolean

const SHAPES: readonly (readonly [FadeShape, string])[] = [
  ['linear', 'straight'],
  ['power', 'equal power'],
  ['s', 'S'],
]

const numberOf = (text: string): number | null =>
  /^\s*[+-]?\d+([.,]\d+)?\s*$/.test(text) ? Number(text.replace(',', '.')) : null

/** A placed sound: where it is, its level and its fades. */
export function ClipCard({ clip }: { clip: Clip }) {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const track = useAppSelector((state) => state.document.doc.track.get(clip.trackId))
  const cue = useAppSelector((state) => (clip.cueId ? state.document.doc.cue.get(clip.cueId) : undefined))
  const shape: Shape = (fields) => dispatch(edit((doc) => shapeClips(doc, { ids: [clip.id], fields })))
  const tc = (sample: number): string => formatTimecode(reel.firstFrame + sampleToFrame(sample, rate), rate)
  return (
    <div className={track ? inkOf(track) : ''}>
      <div className="text-[11px] font-bold tracking-wide text-(--cat)">
        {track?.category} {track?.name}
      </div>
      <h2 className="mt-1 text-[16px] leading-tight font-bold">{clip.name}</h2>
      {clip.scratch !== '' && cue && <VoicePart cue={cue} />}
      <dl className="mt-2 grid grid-cols-[72px_1fr] gap-x-2 gap-y-1 text-[12px]">
        <Row name="Begins">
          <span className="font-mono">{tc(clip.start)}</span>
        </Row>
        <Row name="Sync">
          <span className="font-mono">{tc(Math.max(0, clip.start + clip.sync - clip.offset))}</span>
        </Row>
        <Row name="Ends">
          <span className="font-mono">{tc(clip.start + clip.length)}</span>
        </Row>
        <Gain clip={clip} shape={shape} />
        <Fade
          name="Fade in"
          length={clip.fadeIn}
          bend={clip.fadeInShape}
          onLength={(fadeIn) => shape({ fadeIn })}
          onBend={(fadeInShape) => shape({ fadeInShape })}
        />
        <Fade
          name="Fade out"
          length={clip.fadeOut}
          bend={clip.fadeOutShape}
          onLength={(fadeOut) => shape({ fadeOut })}
          onBend={(fadeOutShape) => shape({ fadeOutShape })}
        />
        <PlayedPart clip={clip} />
        <Row name="Handles">
          <span className="font-mono">
            {secondsOf(clip.offset).toFixed(2)} s +{' '}
            {secondsOf(clip.recorded - clip.offset - clip.length).toFixed(2)} s
          </span>
        </Row>
        <Row name="Cue">
          {cue ? (
            <button
              type="button"
              className="underline underline-offset-2"
              onClick={() => dispatch(viewActions.select([cue.id]))}
            >
              {cueCode(cue)} {cue.words}
            </button>
          ) : (
            'none'
          )}
        </Row>
      </dl>
      <ClipTreatment clip={clip} />
      <Buttons clip={clip} shape={shape} />
    </div>
  )
}

function Gain({ clip, shape }: { clip: Clip; shape: Shape }) {
  const commands = useCommands()
  return (
    <Row name="Gain">
      <span className="flex items-center gap-2">
        <TextField
          label="Gain, decibels"
          value={clip.gain.toFixed(1)}
          className="font-mono !w-14"
          onCommit={(text) => (numberOf(text) === null ? false : shape({ gain: numberOf(text) ?? 0 }))}
        />
        <span className="text-ink-3">dB</span>
        <Button className="px-1.5 py-0" onClick={() => commands.shape.gainBy(-1)} aria-label="1 dB softer">
          −
        </Button>
        <Button className="px-1.5 py-0" onClick={() => commands.shape.gainBy(1)} aria-label="1 dB louder">
          +
        </Button>
      </span>
    </Row>
  )
}

/** A fade's length, typed in milliseconds, and its shape. */
function Fade(props: {
  name: string
  /** In samples. */
  length: number
  bend: FadeShape
  onLength: (length: number) => boolean
  onBend: (bend: FadeShape) => void
}) {
  const { name, length, bend, onLength, onBend } = props
  return (
    <Row name={name}>
      <span className="flex items-center gap-2">
        <TextField
          label={`${name}, milliseconds`}
          value={String(Math.round(secondsOf(length) * 1000))}
          className="font-mono !w-12"
          onCommit={(text) => {
            const typed = numberOf(text)
            return typed === null ? false : onLength(samplesIn(typed / 1000))
          }}
        />
        <span className="text-ink-3">ms</span>
        <Choice label={`${name}, shape`} value={bend} options={SHAPES} onChange={onBend} />
      </span>
    </Row>
  )
}

function Buttons({ clip, shape }: { clip: Clip; shape: Shape }) {
  const commands = useCommands()
  return (
    <div className="mt-3 flex flex-wrap gap-1.5">
      <Button onClick={commands.shape.split}>
        Split <KeyOf action="split" />
      </Button>
      <Button onClick={commands.shape.duplicate}>
        Duplicate <KeyOf action="duplicate" />
      </Button>
      <Button onClick={commands.shape.repeat}>
        Repeat <KeyOf action="repeat" />
      </Button>
      <Button onClick={commands.swap.forChosen} title="The sound chosen in the pane takes its place">
        Swap <KeyOf action="swap" />
      </Button>
      <Button onClick={commands.shape.toggleLock}>
        {clip.locked ? 'Unlock' : 'Lock'} <KeyOf action="lock" />
      </Button>
      <Button onClick={() => shape({ mute: !clip.mute })}>
        {clip.mute ? 'Unmute' : 'Mute'} <KeyOf action="mute" />
      </Button>
      <Button onClick={commands.shape.remove}>
        Delete <KeyOf action="delete" />
      </Button>
    </div>
  )
}
