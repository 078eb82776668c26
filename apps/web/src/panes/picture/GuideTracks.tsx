import type { GuideTrack, Picture } from '@yodel/core'
import { api } from '../../api/api.js'
import { usePicture } from '../../session/session.js'
import { Menu } from '../../ui/Menu.js'

/** Which sound tracks of the movie are heard as the guide, and which one is drawn; nothing where there is no choice. */
export function GuideTracks() {
  const picture = usePicture()
  const [choose] = api.useChooseGuidesMutation()
  if (!picture || picture.tracks.length < 2 || picture.tracks.every(({ length }) => length === 0)) return null
  const { id, tracks, heard, drawn } = picture
  const hear = (some: number[]): void => void choose({ id, heard: some, drawn })
  const heardBeside = (track: number): number[] =>
    heard.includes(track) ? heard.filter((one) => one !== track) : [...heard, track]
  return (
    <div className="flex items-center justify-end gap-1.5 px-3.5 pb-2 text-[11px] text-ink-3">
      movie sound
      <Menu name={heardOf(picture)} right small>
        <div className="max-h-[300px] w-[252px] overflow-y-auto">
          <table className="w-full table-fixed text-[12px]">
            <thead>
              <tr className="text-left text-ink-3">
                <th className="font-normal">Sound track</th>
                <th className="w-[42px] font-normal">heard</th>
                <th className="w-[44px] font-normal">drawn</th>
                <th className="w-[44px]" />
              </tr>
            </thead>
            <tbody>
              {tracks.map((track, index) => {
                const name = nameOf(track, index)
                const off = track.length === 0
                return (
                  <tr key={index} className={off || track.silent ? 'text-ink-3' : ''}>
                    <td className="truncate pr-2" title={name}>
                      {name}
                    </td>
                    <td className="text-center">
                      <input
                        type="checkbox"
                        aria-label={`Hear ${name}`}
                        disabled={off}
                        checked={heard.includes(index)}
                        onChange={() => hear(heardBeside(index))}
                      />
                    </td>
                    <td className="text-center">
                      <input
                        type="radio"
                        name="drawn"
                        aria-label={`Draw ${name}`}
                        disabled={off}
                        checked={drawn === index}
                        onChange={() => void choose({ id, heard, drawn: index })}
                      />
                    </td>
                    <td>
                      <button
                        type="button"
                        className="min-h-6 rounded-[3px] border border-line px-1.5 disabled:hidden"
                        aria-label={`Hear only ${name}`}
                        disabled={off}
                        onClick={() => hear([index])}
                      >
                        only
                      </button>
                    </td>
                  </tr>
                )
              })}
            </tbody>
          </table>
        </div>
        <button
          type="button"
          className="mt-1 min-h-6 self-start rounded-[3px] border border-line px-1.5 text-[12px]"
          onClick={() => hear(tracks.flatMap(({ length }, index) => (length > 0 ? [index] : [])))}
        >
          Hear all
        </button>
      </Menu>
    </div>
  )
}

/** What is heard, as short as there is room for. */
function heardOf({ tracks, heard }: Picture): string {
  const sounding = tracks.filter(({ length, silent }) => length > 0 && !silent).length
  if (heard.length === 0) return 'no track'
  if (heard.length === 1) return `track ${(heard[0] as number) + 1} of ${tracks.length}`
  return heard.length >= sounding
    ? `all ${tracks.length} tracks`
    : `${heard.length} of ${tracks.length} tracks`
}

function nameOf({ name, channels, silent, problem }: GuideTrack, index: number): string {
  const what = problem !== '' ? 'can’t be decoded' : silent ? 'silent' : channels === 2 ? 'stereo' : 'mono'
  return `${index + 1}${name === '' ? '' : ` ${name}`}, ${what}`
}
