import { endSolos, type SilentTrack } from '@yodel/core'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { SilentTracks } from '../../panes/shell/SilentTracks.js'
import { Button } from '../../ui/Button.js'

/** Asks before a mix is bounced from which tracks are left out: a solo is easily forgotten. */
export function LeftOut({
  tracks,
  onGo,
  onBack,
}: {
  tracks: readonly SilentTrack[]
  onGo: () => void
  onBack: () => void
}) {
  const dispatch = useAppDispatch()
  const doc = useAppSelector((state) => state.document.doc)
  const soloed = [...doc.track.values()].filter((track) => track.solo).map((track) => track.name)
  return (
    <div
      role="alertdialog"
      aria-label="Tracks left out"
      className="mt-2 rounded-[5px] border border-gate p-3"
    >
      <p className="font-semibold">
        {tracks.length === 0
          ? 'Every track is heard now.'
          : `The mix would leave out ${tracks.length === 1 ? 'a track' : `${tracks.length} tracks`}:`}
      </p>
      <SilentTracks tracks={tracks} />
      {soloed.length > 0 && <p className="mt-1 text-ink-2">Soloed: {soloed.join(', ')}</p>}
      <div className="mt-2 flex flex-wrap gap-2">
        {soloed.length > 0 && (
          <Button look="strong" onClick={() => dispatch(edit(endSolos))}>
            End every solo
          </Button>
        )}
        <Button look={soloed.length > 0 ? 'plain' : 'strong'} onClick={onGo}>
          {tracks.length === 0 ? 'Bounce the mix' : 'Bounce without them'}
        </Button>
        <Button look="bare" onClick={onBack}>
          Back
        </Button>
      </div>
    </div>
  )
}
