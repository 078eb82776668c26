import {
  frames,
  addTracks,
  editReel,
  FRAME_RATES,
  freezeColumns,
  formatTimecode,
  nameByRule,
  readEntry,
  thawColumns,
  TRACK_TEMPLATE,
  tracksInOrder,
} from '@yodel/core'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { inkOf } from '../../ui/ink.js'
import { Button } from '../../ui/Button.js'
import { Part } from '../../ui/Part.js'
import { when } from '../../ui/when.js'
import { TextField } from '../../ui/TextField.js'
import { NewMilestone } from '../../panes/versions/SheetChooser.js'
import { edit } from '../../document/edit.js'
import { ReelPage } from '../../panes/shell/ReelPage.js'
import { useReel } from '../../session/session.js'
import { viewActions } from '../../document/viewSlice.js'
import { PictureVersions } from './PictureVersions.js'
import { Recordings } from './Recordings.js'

/** The facts of the reel: what it is called, where it begins, its picture's versions, its tracks, its milestones. */
export function FactsPage() {
  const { id } = useReel()
  return (
    <ReelPage>
      <main className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto grid max-w-[980px] gap-x-12 gap-y-8 px-6 py-8 sm:grid-cols-2">
          <div className="flex flex-col gap-8">
            <Names />
            <Times />
            <Milestones />
          </div>
          <div className="flex flex-col gap-8">
            <PictureVersions />
            <Tracks />
            <Recordings reelId={id} />
          </div>
        </div>
      </main>
    </ReelPage>
  )
}

function Line({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="grid grid-cols-[130px_1fr] items-baseline gap-2 border-b border-hair py-1">
      <span className="text-ink-3">{name}</span>
      <div className="min-w-0">{children}</div>
    </div>
  )
}

function Names() {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const set = (fields: Parameters<typeof editReel>[1]['fields']): boolean =>
    dispatch(edit((doc) => editReel(doc, { fields })))
  const today = new Date().toISOString().slice(0, 10)
  return (
    <Part title="Names">
      <Line name="Show">{reel.show}</Line>
      <Line name="Company">
        <TextField
          label="Company"
          value={reel.company}
          placeholder="—"
          onCommit={(company) => set({ company })}
        />
      </Line>
      <Line name="Reel">
        <TextField
          label="Name of the reel"
          value={reel.name}
          onCommit={(name) => name.trim() !== '' && set({ name: name.trim() })}
        />
      </Line>
      <Line name="Files are named">
        <TextField
          label="Naming rule"
          value={reel.nameRule}
          className="font-mono text-[12px]"
          onCommit={(nameRule) => set({ nameRule })}
        />
        <span className="mt-1 block text-[12px] text-ink-2">
          <span className="font-mono break-all">{nameByRule(reel, 'mix', today)}.wav</span>
          <br />
          {'{company} {show} {reel} {date} {function}'} are filled in; underscores part them.
        </span>
      </Line>
    </Part>
  )
}

function Times() {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const frame = (text: string, base: number): number | null => {
    const entry = readEntry(text, frames(base), rate)
    if (entry.ok) return entry.frame
    dispatch(viewActions.notify({ tone: 'problem', text: entry.message }))
    return null
  }
  const set = (fields: Parameters<typeof editReel>[1]['fields']): boolean =>
    dispatch(edit((doc) => editReel(doc, { fields })))
  const time = (label: string, value: number, onFrame: (frame: number) => boolean) => (
    <Line name={label}>
      <TextField
        label={label}
        value={formatTimecode(value, rate)}
        className="font-mono"
        onCommit={(text) => {
          const found = frame(text, value)
          return found !== null && onFrame(found)
        }}
      />
    </Line>
  )
  return (
    <Part title="Time">
      <Line name="Rate">{rate.label}; 48 kHz, 24 bit, stereo</Line>
      {time('First frame', reel.firstFrame, (firstFrame) => set({ firstFrame }))}
      {time('Programme begins', reel.firstFrame + reel.programme, (at) => {
        if (at >= reel.firstFrame) return set({ programme: at - reel.firstFrame })
        dispatch(
          viewActions.notify({
            tone: 'problem',
            text: 'The programme can’t begin before the first frame of the reel.',
          }),
        )
        return false
      })}
      {time('Ends', reel.firstFrame + reel.length, (at) =>
        set({ length: Math.max(1, at - reel.firstFrame) }),
      )}
      <p className="mt-2 text-[12px] text-ink-2">
        Cues and sounds stay on their pictures when the first frame is numbered otherwise: only the numbers
        change.
      </p>
    </Part>
  )
}

function Tracks() {
  const dispatch = useAppDispatch()
  const doc = useAppSelector((state) => state.document.doc)
  const tracks = tracksInOrder(doc)
  const frozen = tracks.some((track) => track.column > 0)
  const missing = TRACK_TEMPLATE.filter(
    ([category, name]) => !tracks.some((track) => track.category === category && track.name === name),
  )
  return (
    <Part title="Tracks">
      <ul className="columns-2 text-[12.5px]">
        {tracks.map((track) => (
          <li key={track.id} className={`${inkOf(track)} truncate`}>
            {track.column > 0 && (
              <span className="mr-1 font-mono text-[11px] text-ink-2">{track.column}</span>
            )}
            <b className="mr-1.5 text-[11px] text-(--cat)">{track.category}</b>
            {track.name}
          </li>
        ))}
        {tracks.length === 0 && <li className="text-ink-2">None yet</li>}
      </ul>
      <Button
        className="mt-3"
        disabled={missing.length === 0}
        onClick={() =>
          dispatch(
            edit((now) =>
              addTracks(now, { tracks: TRACK_TEMPLATE, ids: TRACK_TEMPLATE.map(() => crypto.randomUUID()) }),
            ),
          )
        }
        title={missing.map(([category, name]) => `${category} ${name}`).join(', ')}
      >
        Add the usual {missing.length} tracks
      </Button>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button disabled={tracks.length === 0} onClick={() => dispatch(edit(freezeColumns))}>
          {frozen ? 'Freeze the columns as they stand now' : 'Freeze the columns'}
        </Button>
        {frozen && <Button onClick={() => dispatch(edit(thawColumns))}>Free them</Button>}
      </div>
      <p className="mt-1 text-[12px] text-ink-2">
        {frozen
          ? 'What is handed over lists the tracks in these columns, wherever they stand on the Sheet.'
          : 'Frozen, the tracks keep their columns on paper and in lists, whatever you move on the Sheet.'}
      </p>
    </Part>
  )
}

function Milestones() {
  const reel = useReel()
  const { data: milestones = [] } = api.useMilestonesQuery(reel.id, { refetchOnMountOrArgChange: true })
  return (
    <Part title="Milestones">
      <ul className="text-[12.5px]">
        {milestones.map((milestone) => (
          <li key={milestone.id} className="flex items-baseline gap-2 border-b border-hair py-1">
            <b className="min-w-0 flex-1 truncate font-semibold">{milestone.name}</b>
            <span className="text-[11.5px] text-ink-2">
              {milestone.author}, {when(milestone.at, true)}
            </span>
            <a
              href={`/api/reels/${reel.id}/cues.pdf?at=${milestone.seq}`}
              download
              className="text-[12px] underline"
            >
              PDF
            </a>
          </li>
        ))}
        {milestones.length === 0 && (
          <li className="text-ink-2">
            None yet. Name a state of the work, and Compare shows later what has changed since.
          </li>
        )}
      </ul>
      <NewMilestone />
    </Part>
  )
}
