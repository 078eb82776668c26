import { Choice } from '../../../ui/Choice.js'
import { CATEGORIES, CATEGORY_NAMES, type Category, type ReadList } from '@yodel/core'

/** The tracks of a list: which of them come in, and as what. */
export function ListTracks(props: {
  list: ReadList
  tracks: ReadonlyMap<number, Category>
  onTracks: (tracks: ReadonlyMap<number, Category>) => void
}) {
  const { list, tracks, onTracks } = props
  const set = (index: number, category: Category | ''): void => {
    const next = new Map(tracks)
    if (category === '') next.delete(index)
    else next.set(index, category)
    onTracks(next)
  }
  return (
    <ul className="mt-2 flex flex-col gap-1.5">
      {list.tracks.map(({ name }, index) => {
        const sounds = list.clips.filter(({ track }) => track === index).length
        return (
          <li key={index} className="grid grid-cols-[1fr_130px] items-center gap-2 text-[12px]">
            <span className="min-w-0">
              <b className="block truncate font-semibold" title={name}>
                {name || `Track ${index + 1}`}
              </b>
              <span className="block text-[11px] text-ink-2">
                {sounds} {sounds === 1 ? 'sound' : 'sounds'}
              </span>
            </span>
            <Choice<Category | ''>
              label={`${name || `Track ${index + 1}`} comes in as`}
              value={tracks.get(index) ?? ''}
              options={[['', 'left out'], ...CATEGORIES.map((one) => [one, CATEGORY_NAMES[one]] as const)]}
              onChange={(category) => set(index, category)}
              className="h-7"
            />
          </li>
        )
      })}
    </ul>
  )
}
