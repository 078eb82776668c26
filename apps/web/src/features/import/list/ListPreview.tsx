import {
  frameToSample,
  formatTimecode,
  FRAME_RATES,
  planList,
  SAMPLE_RATE,
  type Category,
  type IncomingList,
  type ListedSound,
  type Reel,
} from '@yodel/core'
import { useMemo, useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { useCommands } from '../../../commands/CommandsProvider.js'
import { useAppSelector } from '../../../document/store.js'
import { useReel } from '../../../session/session.js'
import { Choice } from '../../../ui/Choice.js'
import { Row } from '../../../ui/Row.js'
import { PreviewPart } from '../PreviewPart.js'
import { ListFiles } from './ListFiles.js'
import { ListTracks } from './ListTracks.js'

const POSITIONS = [
  ['timecode', 'at its timecode'],
  ['head', 'from the reel’s first frame'],
  ['programme', 'from the programme'],
] as const
const MARKERS = [
  ['none', 'are left out'],
  ['cues', 'become cues'],
  ['notes', 'become notes'],
] as const
type Position = (typeof POSITIONS)[number][0]

/** Sample of the reel at which a list begins. */
function shiftOf(reel: Reel, begins: number | null, position: Position): number {
  const rate = FRAME_RATES[reel.rate]
  if (position === 'programme') return frameToSample(reel.programme, rate)
  if (position === 'head' || begins === null) return 0
  return Math.round((begins - (reel.firstFrame * rate.den) / rate.num) * SAMPLE_RATE)
}

const counted = (count: number, what: string): string =>
  `${count.toLocaleString('en')} ${what}${count === 1 ? '' : 's'}`

/** A file read as placed sounds: which tracks come in as what, and which recordings they play. */
export function ListPreview(props: {
  name: string
  placed: IncomingList
  head: ReactNode
  onOther: () => void
}) {
  const { list, matches, sounds } = props.placed
  const { lists } = useCommands()
  const navigate = useNavigate()
  const reel = useReel()
  const doc = useAppSelector((state) => state.document.doc)
  const author = useAppSelector((state) => state.document.me)
  const [tracks, setTracks] = useState<ReadonlyMap<number, Category>>(
    () => new Map(list.tracks.map(({ category }, index) => [index, category ?? 'FX'])),
  )
  const [position, setPosition] = useState<Position>(list.begins === null ? 'head' : 'timecode')
  const [markers, setMarkers] = useState<(typeof MARKERS)[number][0]>('none')
  const [chosen, setChosen] = useState<ReadonlyMap<string, ListedSound>>(() => {
    const known = new Map(sounds.map((sound) => [sound.id, sound]))
    return new Map(
      matches.flatMap(({ media, id }) => {
        const sound = id === null ? undefined : known.get(id)
        return sound ? [[media.key, sound] as const] : []
      }),
    )
  })
  const args = useMemo(
    () => ({
      ...{ list, tracks, markers, author, sounds: chosen, from: props.name },
      ...{ shift: shiftOf(reel, list.begins, position), at: new Date().toISOString() },
      newId: () => crypto.randomUUID(),
    }),
    [list, tracks, markers, author, chosen, props.name, reel, position],
  )
  const plan = useMemo(() => planList(doc, args), [doc, args])
  const first = plan.clips.reduce((least, { start }) => Math.min(least, start), Infinity)
  const rate = FRAME_RATES[reel.rate]
  const at = (sample: number): string =>
    formatTimecode(reel.firstFrame + Math.round((sample * rate.num) / (rate.den * SAMPLE_RATE)), rate)
  const take = (): void => {
    if (lists.lay(args)) void navigate(`/reels/${reel.id}`)
  }
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[300px_1fr]">
      <PreviewPart
        name={props.name}
        holds={[
          `${counted(list.clips.length, 'sound')} on ${counted(list.tracks.length, 'track')}`,
          ...(list.markers.length > 0 ? [counted(list.markers.length, 'marker')] : []),
        ].join(', ')}
        head={
          <>
            {props.head}
            <Row name="Position">
              <Choice
                label="Where the list goes"
                value={position}
                options={list.begins === null ? POSITIONS.slice(1) : POSITIONS}
                onChange={setPosition}
              />
            </Row>
            <Row name="First sound">
              <span className="font-mono">{first === Infinity ? 'none' : at(first)}</span>
            </Row>
            {list.markers.length > 0 && (
              <Row name="Markers">
                <Choice label="What markers become" value={markers} options={MARKERS} onChange={setMarkers} />
              </Row>
            )}
          </>
        }
        title="Tracks"
        act={
          plan.clips.length === 0 && plan.markers.length > 0
            ? `Take ${counted(plan.markers.length, 'marker')}`
            : `Lay ${counted(plan.clips.length, 'sound')}`
        }
        onAct={plan.clips.length + plan.markers.length > 0 ? take : null}
        onOther={props.onOther}
        leave="sheet"
        remark="They come on new tracks behind the others, in one step that can be undone."
      >
        <ListTracks list={list} tracks={tracks} onTracks={setTracks} />
      </PreviewPart>
      <section className="flex min-h-0 flex-col" aria-label="What would come">
        <Told left={list.left} told={plan.told} />
        <ListFiles
          matches={matches}
          sounds={sounds}
          chosen={chosen}
          onChoose={(key, sound) => setChosen(choosing(chosen, key, sound))}
        />
      </section>
    </div>
  )
}

function choosing(chosen: ReadonlyMap<string, ListedSound>, key: string, sound: ListedSound | null) {
  const next = new Map(chosen)
  if (sound) next.set(key, sound)
  else next.delete(key)
  return next
}

/** What of the file is not taken over: what it holds that has no place here, and what can't be laid. */
function Told({ left, told }: { left: readonly string[]; told: readonly string[] }) {
  if (left.length + told.length === 0) return null
  return (
    <ul
      className="max-h-[35%] shrink-0 overflow-y-auto border-b border-line bg-paper-2 px-4 py-2 text-[12px]"
      aria-label="Not taken over"
    >
      {told.map((line) => (
        <li key={line} className="font-semibold">
          {line}
        </li>
      ))}
      {left.map((line) => (
        <li key={line} className="text-ink-2">
          Not taken over: {line.replace(/\.$/, '')}.
        </li>
      ))}
    </ul>
  )
}
