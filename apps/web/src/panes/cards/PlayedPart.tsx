import { bendClips, type Clip } from '@yodel/core'
import { useAppDispatch } from '../../document/store.js'
import { TextField } from '../../ui/TextField.js'
import { edit } from '../../document/edit.js'
import { api } from '../../api/api.js'
import { channelOptions } from '../../ui/channelOptions.js'
import { Choice } from '../../ui/Choice.js'
import { ChoiceRow } from '../../ui/ChoiceRow.js'
import { Row } from '../../ui/Row.js'

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
  const setSpeed = (text: string): boolean => {
    const percent = Number(text.replace('%', '').replace(',', '.'))
    if (text.trim() === '' || Number.isNaN(percent)) return false
    return bend({ speed: percent / 100 }, 'Speed of')
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
        <span className="flex items-center gap-2">
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
          />
        </span>
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
