import { endSolos, silentTracks, unmuteTracks } from '@yodel/core'
import { useMemo } from 'react'
import { edit } from '../../document/edit.js'
import { useAppDispatch } from '../../document/store.js'
import { useTables } from '../../document/useTables.js'
import { Button } from '../../ui/Button.js'
import { Menu } from '../../ui/Menu.js'
import { SilentTracks } from './SilentTracks.js'

/** Says in the bar on top that tracks are silent, muted or for others' solo: they are left out of every bounce. Nothing where all are heard. */
export function SilentMark() {
  const dispatch = useAppDispatch()
  const doc = useTables('track', 'clip')
  const silent = useMemo(() => silentTracks(doc), [doc])
  const soloed = [...doc.track.values()].filter((track) => track.solo)
  if (silent.length === 0 && soloed.length === 0) return null
  const muted = silent.filter(({ why }) => why === 'muted').length
  const name = [
    ...(soloed.length > 0 ? [`solo: ${soloed.length === 1 ? soloed[0]?.name : soloed.length}`] : []),
    ...(silent.length > 0 ? [`${silent.length} silent`] : []),
  ].join(' · ')
  return (
    <Menu name={name} label="Tracks that are not heard" right small alarm>
      <p className="px-1 pb-1 text-ink-2">Left out of what you hear, and of every bounce:</p>
      <SilentTracks tracks={silent} />
      <div className="mt-2 flex gap-2">
        {soloed.length > 0 && (
          <Button look="strong" onClick={() => dispatch(edit(endSolos))}>
            End every solo
          </Button>
        )}
        {muted > 0 && (
          <Button onClick={() => dispatch(edit(unmuteTracks))}>
            {muted === 1 ? 'Unmute it' : 'Unmute them'}
          </Button>
        )}
      </div>
    </Menu>
  )
}
