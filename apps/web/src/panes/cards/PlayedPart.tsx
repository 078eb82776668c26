import { bendClips, PASSES, SAMPLE_RATE, samplesIn, type Clip } from '@yodel/core'
import { useAppDispatch } from '../../document/store.js'
import { TextField } from '../../ui/TextField.js'
import { edit } from '../../document/edit.js'
import { api } from '../../api/api.js'
import { channelOptions } from '../../ui/channelOptions.js'
import { Choice } from '../../ui/Choice.js'
import { ChoiceRow } from '../../ui/ChoiceRow.js'
import { readNumber } from '../../ui/readNumber.js'
import { Row } from '../../ui/Row.js'

const PASSES_BY = [
  ['stays', 'stays'],
  ['right', 'to the right'],
  ['left', 'to the left'],
] as const
/** Metres a second with which something goes past at first: a slow train. */
const USUAL_PACE = 15

const within = (value: number, least: number, most: number): number => Math.max(least, Math.min(most, value))

const SIDES = [
  ['kept', 'sides as recorded'],
  ['swapped', 'sides exchanged'],
  ['summed', 'both in one'],
] as const

/** How a placed sound is played: its speed, its direction, its sides, its channels. */
export function PlayedPart({ clip }: { clip: Clip }) {
  const dispatch = useAppDispatch()
  const count = api.useSoundQuery(clip.soundId).currentData?.channels ?? 0
  const bend = (fields: Parameters<typeof bendClips>[1]['fields'], label: string): boolean =>
    dispatch(edit((doc) => bendClips(doc, { ids: [clip.id], fields, label: `${label} ${clip.name}` })))
  const pace = Math.abs(clip.passSpeed) || USUAL_PACE
  const setSpeed = (text: string): boolean => {
    const percent = readNumber(text.replace('%', ''))
    return percent === null ? false : bend({ speed: percent / 100 }, 'Speed of')
  }
  return (
    <>
      <Row name="Speed">
        <span className="flex items-center gap-2">
          <TextField
            label="Speed, per cent"
            value={(clip.speed * 100).toFixed(clip.speed * 100 === Math.round(clip.speed * 100) ? 0 : 1)}
            className="font-mono !w-12"
            onCommit={setSpeed}
          />
          <span className="text-ink-3">%</span>
          <label className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={clip.keepPitch}
              onChange={(event) => bend({ keepPitch: event.target.checked }, 'Pitch of')}
            />{' '}
            pitch kept
          </label>
        </span>
      </Row>
      <Row name="Played">
        <span className="flex min-w-0 items-center gap-2">
          <label className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={clip.reverse}
              onChange={(event) => bend({ reverse: event.target.checked }, 'Turn round')}
            />{' '}
            backwards
          </label>
          <Choice
            label="Left and right"
            value={clip.sides}
            options={SIDES}
            onChange={(sides) => bend({ sides }, 'Sides of')}
            className="min-w-0 flex-1"
          />
        </span>
      </Row>
      <Row name="Runs up">
        <Figure
          label="Runs up from rest over, seconds"
          value={clip.runUp / SAMPLE_RATE}
          unit="s from rest"
          onCommit={(seconds) => bend({ runUp: samplesIn(Math.max(0, seconds)) }, 'Run up')}
        />
      </Row>
      <Row name="Runs down">
        <Figure
          label="Runs down to rest over, seconds"
          value={clip.runDown / SAMPLE_RATE}
          unit="s to rest"
          onCommit={(seconds) => bend({ runDown: samplesIn(Math.max(0, seconds)) }, 'Run down')}
        />
      </Row>
      <Row name="Goes past">
        <Choice
          label="Goes past"
          value={clip.passSpeed === 0 ? 'stays' : clip.passSpeed > 0 ? 'right' : 'left'}
          options={PASSES_BY}
          onChange={(way) => bend({ passSpeed: { stays: 0, right: 1, left: -1 }[way] * pace }, 'Way of')}
        />
        {clip.passSpeed !== 0 && (
          <span className="mt-1 flex items-center gap-2">
            <Figure
              label="Speed of passing, metres a second"
              value={pace}
              unit="m/s"
              onCommit={(speed) =>
                bend(
                  { passSpeed: Math.sign(clip.passSpeed) * within(Math.abs(speed), 0.1, PASSES.fastest) },
                  'Way of',
                )
              }
            />
            <Figure
              label="Distance of passing, metres"
              value={clip.passDistance}
              unit="m away"
              onCommit={(metres) =>
                bend({ passDistance: within(metres, PASSES.nearest, PASSES.farthest) }, 'Way of')
              }
            />
          </span>
        )}
      </Row>
      {count > 1 && (
        <ChoiceRow
          name="Channels"
          label="Channels that are heard"
          value={clip.channels}
          options={channelOptions(count)}
          onChange={(channels) => bend({ channels }, 'Channels of')}
        />
      )}
    </>
  )
}

/** A number that is typed, to a hundredth, and what it counts. */
function Figure(props: { label: string; value: number; unit: string; onCommit: (value: number) => boolean }) {
  return (
    <span className="flex items-center gap-1.5">
      <TextField
        label={props.label}
        value={String(Math.round(props.value * 100) / 100)}
        className="font-mono !w-11"
        onCommit={(text) => {
          const typed = readNumber(text)
          return typed === null ? false : props.onCommit(typed)
        }}
      />
      <span className="whitespace-nowrap text-ink-3">{props.unit}</span>
    </span>
  )
}
