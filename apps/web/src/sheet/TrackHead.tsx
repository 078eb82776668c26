import { editTrack, type Track } from '@yodel/core'
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useState, type PointerEvent } from 'react'
import { useAppDispatch } from '../document/store.js'
import { edit } from '../document/edit.js'
import { isTried } from '../document/tried.js'
import { viewActions } from '../document/viewSlice.js'
import { hyphenated } from '../ui/hyphenated.js'
import { TextField } from '../ui/TextField.js'
import type { Column } from './columns.js'
import { inkOf } from '../ui/ink.js'
import { TRACK_WIDTH } from './geometry.js'

/** The head of a column: its category's code in its ink, its name, mute and solo; of a folder that is folded together, its name and what lies in it. */
export function TrackHead({
  column,
  onDrag,
}: {
  column: Column
  onDrag: (down: PointerEvent, track: Track) => void
}) {
  const track = column.tracks[0] as Track
  return column.folded ? (
    <FoldedHead column={column} />
  ) : (
    <OpenHead track={track} column={column} onDrag={onDrag} />
  )
}

function OpenHead({
  track,
  column,
  onDrag,
}: {
  track: Track
  column: Column
  onDrag: (down: PointerEvent, track: Track) => void
}) {
  const dispatch = useAppDispatch()
  const isNarrow = column.width < TRACK_WIDTH
  const mono = track.width === 'mono' ? ' mono' : ''
  const set = (fields: Partial<Pick<Track, 'name' | 'mute' | 'solo'>>, label: string): boolean =>
    dispatch(edit((doc) => editTrack(doc, { id: track.id, fields, label })))
  return (
    <div
      // A track that would be made for what is tried has nothing to be set yet.
      inert={isTried(track.id)}
      className={`absolute inset-y-0 overflow-hidden border-l border-line ${inkOf(track)} ${isTried(track.id) ? 'opacity-60' : ''}`}
      style={{ left: column.left, width: column.width }}
      data-head={track.id}
    >
      <div className="flex h-[13px] bg-(--cat) text-[10.5px] leading-[13px] font-bold tracking-wide text-paper">
        <button
          type="button"
          aria-label={`${track.category}${mono}: level, pan and treatment of ${track.name}`}
          title="Click: level, pan, treatment. Drag: another place."
          onClick={() => dispatch(viewActions.select([track.id]))}
          onPointerDown={(down) => onDrag(down, track)}
          className="min-w-0 flex-1 touch-none px-1.5 text-left whitespace-nowrap"
        >
          {track.category}
          {mono}
        </button>
        {column.folder !== '' && (
          <button
            type="button"
            aria-label={`Fold ${column.folder} together`}
            aria-expanded
            title={`Fold ${column.folder} together`}
            onClick={() => dispatch(viewActions.toggleFolder(column.folder))}
            className="flex items-center px-0.5"
          >
            <ChevronDown size={12} aria-hidden />
          </button>
        )}
      </div>
      <TrackName
        track={track}
        folder={column.folder}
        isNarrow={isNarrow}
        onName={(name) => set({ name }, `Rename track ${track.name}`)}
      />
      <div
        className={`absolute inset-x-0 bottom-[2px] flex ${isNarrow ? 'flex-col gap-px px-px' : 'gap-[3px] px-1.5'}`}
      >
        <Switch
          on={track.mute}
          label={`Mute ${track.name}`}
          onClick={() => set({ mute: !track.mute }, `${track.mute ? 'Unmute' : 'Mute'} ${track.name}`)}
        >
          {isNarrow ? 'm' : 'mute'}
        </Switch>
        <Switch
          on={track.solo}
          label={`Solo ${track.name}`}
          onClick={() => set({ solo: !track.solo }, `${track.solo ? 'End solo of' : 'Solo'} ${track.name}`)}
        >
          {isNarrow ? 's' : 'solo'}
        </Switch>
      </div>
    </div>
  )
}

/** The name of a track, on two lines before it is cut; a press has it typed. */
function TrackName({
  track,
  folder,
  isNarrow,
  onName,
}: {
  track: Track
  folder: string
  isNarrow: boolean
  onName: (name: string) => boolean
}) {
  const dispatch = useAppDispatch()
  const [typing, setTyping] = useState(false)
  return typing ? (
    <div className="px-1.5">
      <TextField
        label={`Name of track ${track.name}`}
        value={track.name}
        autoFocusKey={track.id}
        className="min-w-0 !py-0 text-[11.5px] leading-[15px] font-semibold"
        onCommit={(name) => (name.trim() === '' ? false : onName(name.trim()))}
        onDone={() => setTyping(false)}
      />
    </div>
  ) : (
    <button
      type="button"
      aria-label={`Name of track ${track.name}`}
      title={folder ? `${folder}: ${track.name}` : track.name}
      onClick={() => {
        dispatch(viewActions.select([track.id]))
        setTyping(true)
      }}
      className={`line-clamp-2 w-full pt-px text-left leading-[12.5px] font-semibold wrap-anywhere hover:underline ${isNarrow ? 'px-[3px] text-[10px] tracking-tight' : 'px-1.5 text-[11px]'}`}
    >
      {/* The narrowest have room for a few letters only: a hyphen would cost one of them. */}
      {isNarrow ? track.name : hyphenated(track.name)}
    </button>
  )
}

function FoldedHead({ column }: { column: Column }) {
  const dispatch = useAppDispatch()
  const { folder, tracks } = column
  return (
    <div
      className={`absolute inset-y-0 border-l border-line ${inkOf(tracks[0] as Track)}`}
      style={{ left: column.left, width: column.width }}
      data-folder={folder}
    >
      <button
        type="button"
        aria-label={`${tracks[0]?.category} ${folder} ${tracks.length} tracks: unfold`}
        aria-expanded={false}
        title={`${folder}: ${tracks.map((track) => track.name).join(', ')}. Click to unfold.`}
        onClick={() => dispatch(viewActions.toggleFolder(folder))}
        className="flex h-full w-full flex-col items-stretch text-left"
      >
        <span className="flex h-[13px] w-full items-center bg-(--cat) px-0.5 text-[10.5px] font-bold text-paper">
          <ChevronRight size={12} aria-hidden />
          {tracks[0]?.category}
        </span>
        <span className="line-clamp-2 px-1 pt-px text-[10.5px] leading-[12px] font-semibold break-words">
          {folder}
        </span>
        <span className="px-1 text-[10.5px] leading-[13px] text-ink-2">{tracks.length} tracks</span>
      </button>
    </div>
  )
}

function Switch({
  on,
  label,
  onClick,
  children,
}: {
  on: boolean
  label: string
  onClick: () => void
  children: string
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={label}
      onClick={onClick}
      className={`h-[24px] min-w-0 flex-auto rounded-[3px] border px-0.5 text-[10.5px] leading-none ${on ? 'border-ink bg-ink text-paper' : 'border-line bg-card text-ink-2 hover:border-ink-3'}`}
    >
      {children}
    </button>
  )
}
