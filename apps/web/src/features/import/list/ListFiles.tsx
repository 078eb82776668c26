import type { FoundSoundFile, IncomingList, ListedSound } from '@yodel/core'
import { lengthOf } from '../../../panes/sounds/describe.js'
import { SoundChooser } from './SoundChooser.js'

/** Files that are shown at most; those without a recording first. */
const SHOWN = 400
const HOW = { checksum: 'same content', path: 'same path', name: 'same name' } as const

/** The files that a list plays, and the recording that is taken for each. */
export function ListFiles(props: {
  matches: IncomingList['matches']
  sounds: readonly FoundSoundFile[]
  chosen: ReadonlyMap<string, ListedSound>
  onChoose: (key: string, sound: ListedSound | null) => void
}) {
  const { matches, chosen } = props
  const known = new Map(props.sounds.map((sound) => [sound.id, sound]))
  // By what was found, not by what was chosen: a line stays where it is while it is worked on.
  const sorted = matches.toSorted((a, b) => Number(a.id !== null) - Number(b.id !== null))
  const hidden = sorted.slice(SHOWN)
  const found = matches.filter(({ media }) => chosen.has(media.key)).length
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <table className="w-full table-fixed text-left text-[12px]">
        <thead className="sticky top-0 z-10 bg-paper-2 text-[11px] text-ink-2">
          <tr>
            <th className="w-[38%] px-4 py-1 font-semibold">File in the list</th>
            <th className="w-[64px] px-2 py-1 text-right font-semibold">Sounds</th>
            <th className="px-2 py-1 font-semibold">
              Recording ({found} of {matches.length} found)
            </th>
          </tr>
        </thead>
        <tbody>
          {sorted.slice(0, SHOWN).map(({ media, id, by, differs, choices }) => {
            const sound = chosen.get(media.key) ?? null
            const asFound = sound !== null && sound.id === id
            return (
              <tr key={media.key} className="border-b border-hair align-top" data-file={media.file}>
                <td className="px-4 py-1.5">
                  <span className="block truncate" title={media.file}>
                    {media.file || 'without a name'}
                  </span>
                  {media.fileLength !== null && (
                    <span className="block text-[11px] text-ink-2">{lengthOf(media.fileLength)}</span>
                  )}
                </td>
                <td className="px-2 py-1.5 text-right font-mono">{media.uses}</td>
                <td className="px-2 py-1">
                  <SoundChooser
                    label={`Recording for ${media.file}`}
                    sound={sound}
                    choices={choices.flatMap((choice) => known.get(choice) ?? [])}
                    onChoose={(next) => props.onChoose(media.key, next)}
                  />
                  <p className={`px-1 text-[11px] ${differs && asFound ? 'text-gate' : 'text-ink-2'}`}>
                    {asFound && differs
                      ? 'It is called the same but is another recording: listen before you trust it.'
                      : asFound && by !== null
                        ? `${known.get(id ?? '')?.shelf ?? ''}, ${HOW[by]}`
                        : sound
                          ? `chosen by hand, ${lengthOf(sound.length)}`
                          : choices.length > 1
                            ? `${choices.length} may be it: choose one.`
                            : 'Nothing on the shelves is called that: search, or leave it out.'}
                  </p>
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {hidden.length > 0 && (
        <p className="p-3 text-ink-2">
          and {hidden.length} more{hidden.every(({ id }) => id !== null) ? ', all found' : ''}
        </p>
      )}
    </div>
  )
}
