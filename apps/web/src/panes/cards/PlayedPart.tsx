import { bendClips, type Clip } from '@yodel/core'
import { useAppDispatch } from '../../document/store.js'
import { TextField } from '../../ui/TextField.js'
import { edit } from '../../document/edit.js'
import { Row } from '../../ui/Row.js'

/** How a placed sound is played: its speed, its direction, its sides. */
export function PlayedPart({ clip }: { clip: Clip }) {
  const dispatch = useAppDispatch()
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
          <select
            aria-label="Left and right"
            value={clip.sides}
            onChange={(event) => bend({ sides: event.target.value as Clip['sides'] }, 'Sides of')}
            className="rounded-[3px] border border-line bg-card py-0.5"
          >
            <option value="kept">sides as recorded</option>
            <option value="swapped">sides exchanged</option>
            <option value="summed">both in one</option>
          </select>
        </span>
      </Row>
    </>
  )
}
