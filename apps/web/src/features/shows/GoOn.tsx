import { CATEGORY_NAMES, FRAME_RATES, formatTimecode, type Show } from '@yodel/core'
import { useNavigate } from 'react-router'
import { lastPlace } from '../../session/lastPlace.js'
import { Button } from '../../ui/Button.js'

/** The way back to where one was; nothing where that is not known, or is gone. */
export function GoOn({ shows }: { shows: readonly Show[] }) {
  const navigate = useNavigate()
  const place = lastPlace()
  const summary = shows.flatMap(({ reels }) => reels).find(({ id }) => id === place?.reelId)
  if (!place || !summary) return null
  const { reel } = summary
  const timecode = formatTimecode(reel.firstFrame + place.frame, FRAME_RATES[reel.rate])
  return (
    <div className="mb-6 flex items-center gap-4 border-l-4 border-gate bg-card px-3 py-2.5" data-go-on>
      <p className="min-w-0 flex-1">
        <b className="font-semibold">Go on where you were:</b> {reel.show}, {reel.name} at{' '}
        <span className="font-mono text-[12.5px]">{timecode}</span>
        {place.pass && `, pass for ${CATEGORY_NAMES[place.pass]}`}
      </p>
      <Button look="strong" autoFocus onClick={() => void navigate(`/reels/${summary.id}`)}>
        Open the Sheet
      </Button>
    </div>
  )
}
