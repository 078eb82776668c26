import { editTrack, type Track } from '@yodel/core'
import { useAppDispatch } from '../app/store.js'
import { edit } from '../features/reel/edits.js'
import { isTried } from '../features/sounds/tried.js'
import { viewActions } from '../features/reel/viewSlice.js'
import { TextField } from '../ui/TextField.js'

/** The head of a track: its category's ink and code, its name, mute and solo. */
export function TrackHead({ track, left, width }: { track: Track; left: number; width: number }) {
  const dispatch = useAppDispatch()
  const set = (fields: Partial<Pick<Track, 'name' | 'mute' | 'solo'>>, label: string): boolean => dispatch(edit((doc) => editTrack(doc, { id: track.id, fields, label })))
  return (
    <div
      // A track that would be made for what is tried has nothing to be set yet.
      inert={isTried(track.id)}
      className={`absolute inset-y-0 overflow-hidden border-l border-line ink-${track.category} ${isTried(track.id) ? 'opacity-60' : ''}`}
      style={{ left, width }}
      data-head={track.id}
    >
      <button
        type="button"
        aria-label={`Level, pan and treatment of ${track.name}`}
        onClick={() => dispatch(viewActions.select([track.id]))}
        className="block h-[12px] w-full bg-(--cat) px-1.5 text-left text-[10.5px] leading-[12px] font-bold tracking-wide text-paper"
      >
        {track.category}
      </button>
      <div className="px-1.5" title={track.name} onFocus={() => dispatch(viewActions.select([track.id]))}>
        <TextField
          label={`Name of track ${track.name}`}
          value={track.name}
          className="min-w-0 truncate !py-0 text-[11.5px] leading-[15px] font-semibold"
          onCommit={(name) => (name.trim() === '' ? false : set({ name: name.trim() }, `Rename track ${track.name}`))}
        />
      </div>
      <div className="flex gap-[3px] px-1.5 pt-px">
        <Switch on={track.mute} label={`Mute ${track.name}`} onClick={() => set({ mute: !track.mute }, `${track.mute ? 'Unmute' : 'Mute'} ${track.name}`)}>
          mute
        </Switch>
        <Switch on={track.solo} label={`Solo ${track.name}`} onClick={() => set({ solo: !track.solo }, `${track.solo ? 'End solo of' : 'Solo'} ${track.name}`)}>
          solo
        </Switch>
      </div>
    </div>
  )
}

function Switch({ on, label, onClick, children }: { on: boolean; label: string; onClick: () => void; children: string }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={label}
      onClick={onClick}
      className={`h-[22px] min-w-[29px] flex-1 rounded-[3px] border px-0.5 text-[10.5px] leading-none ${on ? 'border-ink bg-ink text-paper' : 'border-line bg-card text-ink-2 hover:border-ink-3'}`}
    >
      {children}
    </button>
  )
}
