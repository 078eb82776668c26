import {
  secondsOf,
  cueCode,
  FRAME_RATES,
  formatTimecode,
  sampleToFrame,
  shapeClips,
  type Clip,
  type FadeShape,
} from '@yodel/core'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { inkOf } from '../../ui/ink.js'
import { Button, Kbd } from '../../ui/Button.js'
import { TextField } from '../../ui/TextField.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { edit } from '../../document/edit.js'
import { useReel } from '../../session/session.js'
import { viewActions } from '../../document/viewSlice.js'
import { PlayedPart } from './PlayedPart.js'
import { Row } from '../../ui/Row.js'

const milliseconds = (samples: number): string => String(Math.round(samples / 48))

/** A placed sound: where it is, its level and its fades. */
export function ClipCard({ clip }: { clip: Clip }) {
  const dispatch = useAppDispatch()
  const commands = useCommands()
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const track = useAppSelector((state) => state.document.doc.track.get(clip.trackId))
  const cue = useAppSelector((state) => (clip.cueId ? state.document.doc.cue.get(clip.cueId) : undefined))
  const shape = (fields: Parameters<typeof shapeClips>[1]['fields']): boolean =>
    dispatch(edit((doc) => shapeClips(doc, { ids: [clip.id], fields })))
  const tc = (sample: number): string => formatTimecode(reel.firstFrame + sampleToFrame(sample, rate), rate)
  const numberOf = (text: string): number | null =>
    /^\s*[+-]?\d+([.,]\d+)?\s*$/.test(text) ? Number(text.replace(',', '.')) : null
  const fade = (end: 'fadeIn' | 'fadeOut', shapeKey: 'fadeInShape' | 'fadeOutShape', label: string) => (
    <Row name={label}>
      <span className="flex items-center gap-2">
        <TextField
          label={`${label}, milliseconds`}
          value={milliseconds(clip[end])}
          className="font-mono !w-12"
          onCommit={(text) =>
            numberOf(text) === null ? false : shape({ [end]: Math.round((numberOf(text) ?? 0) * 48) })
          }
        />
        <span className="text-ink-3">ms</span>
        <select
          aria-label={`${label}, shape`}
          value={clip[shapeKey]}
          onChange={(event) => shape({ [shapeKey]: event.target.value as FadeShape })}
          className="rounded-[3px] border border-line bg-card py-0.5"
        >
          <option value="linear">straight</option>
          <option value="power">equal power</option>
          <option value="s">S</option>
        </select>
      </span>
    </Row>
  )
  return (
    <div className={track ? inkOf(track) : ''}>
      <div className="text-[11px] font-bold tracking-wide text-(--cat)">
        {track?.category} {track?.name}
      </div>
      <h2 className="mt-1 text-[16px] leading-tight font-bold">{clip.name}</h2>
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
        <Row name="Gain">
          <span className="flex items-center gap-2">
            <TextField
              label="Gain, decibels"
              value={clip.gain.toFixed(1)}
              className="font-mono !w-14"
              onCommit={(text) => (numberOf(text) === null ? false : shape({ gain: numberOf(text) ?? 0 }))}
            />
            <span className="text-ink-3">dB</span>
            <Button
              className="px-1.5 py-0"
              onClick={() => commands.shape.gainBy(-1)}
              aria-label="1 dB softer"
            >
              −
            </Button>
            <Button className="px-1.5 py-0" onClick={() => commands.shape.gainBy(1)} aria-label="1 dB louder">
              +
            </Button>
          </span>
        </Row>
        {fade('fadeIn', 'fadeInShape', 'Fade in')}
        {fade('fadeOut', 'fadeOutShape', 'Fade out')}
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
      <div className="mt-3 flex flex-wrap gap-1.5">
        <Button onClick={commands.shape.split}>
          Split <Kbd>X</Kbd>
        </Button>
        <Button onClick={commands.shape.duplicate}>
          Duplicate <Kbd>D</Kbd>
        </Button>
        <Button onClick={commands.shape.repeat}>
          Repeat <Kbd>E</Kbd>
        </Button>
        <Button onClick={commands.swap.forChosen} title="The sound chosen in the pane takes its place">
          Swap <Kbd>Alt T</Kbd>
        </Button>
        <Button onClick={commands.shape.toggleLock}>
          {clip.locked ? 'Unlock' : 'Lock'} <Kbd>U</Kbd>
        </Button>
        <Button onClick={() => shape({ mute: !clip.mute })}>
          {clip.mute ? 'Unmute' : 'Mute'} <Kbd>M</Kbd>
        </Button>
        <Button onClick={commands.shape.remove}>
          Delete <Kbd>Del</Kbd>
        </Button>
      </div>
    </div>
  )
}
