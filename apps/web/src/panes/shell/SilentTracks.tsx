import type { SilentTrack } from '@yodel/core'

/** The tracks that are not heard, why, and how much lies on each. */
export function SilentTracks({ tracks }: { tracks: readonly SilentTrack[] }) {
  return (
    <ul className="mt-1 max-h-64 overflow-y-auto">
      {tracks.map(({ track, why, sounds }) => (
        <li key={track.id} className="flex gap-4 border-b border-hair py-1">
          <span className="min-w-0 flex-1 truncate">{track.name}</span>
          <span className="text-ink-2">{why === 'muted' ? 'muted' : 'another is soloed'}</span>
          <span className="w-20 text-right text-ink-2">
            {sounds} {sounds === 1 ? 'sound' : 'sounds'}
          </span>
        </li>
      ))}
    </ul>
  )
}
