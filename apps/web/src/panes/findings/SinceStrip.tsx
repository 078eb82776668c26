import { formatTimecode, FRAME_RATES } from '@yodel/core'
import { ChevronDown, ChevronUp, X } from 'lucide-react'
import { Link } from 'react-router'
import { useCommands } from '../../commands/CommandsProvider.js'
import { useAppSelector } from '../../document/store.js'
import { useReel } from '../../session/session.js'
import { Button } from '../../ui/Button.js'

/** What has changed since a turnover, one after the other, above the Sheet. */
export function SinceStrip() {
  const { findings } = useCommands()
  const reel = useReel()
  const since = useAppSelector((state) => state.view.since)
  if (!since) return null
  const { name, lines, at } = since
  const line = lines[at]
  return (
    <section
      className="flex shrink-0 items-center gap-2 border-b border-line bg-card px-3 py-1 text-[12.5px]"
      aria-label="Changes since a turnover"
    >
      <Link to={`/reels/${reel.id}/turnover`} className="text-ink-2 underline">
        Since {name}
      </Link>
      <span className="font-mono whitespace-nowrap text-ink-2">
        {at + 1} of {lines.length}
      </span>
      <span className="font-mono">
        {line?.at ? formatTimecode(reel.firstFrame + line.at.from, FRAME_RATES[reel.rate]) : 'whole reel'}
      </span>
      <span className="min-w-0 flex-1 truncate" title={line?.text}>
        <b>{line?.name}</b> {line?.text}
      </span>
      <Button look="bare" aria-label="Previous change" onClick={() => findings.since(name, lines, at - 1)}>
        <ChevronUp size={15} />
      </Button>
      <Button look="bare" aria-label="Next change" onClick={() => findings.since(name, lines, at + 1)}>
        <ChevronDown size={15} />
      </Button>
      <Button look="bare" aria-label="Put changes away" onClick={() => findings.leaveSince()}>
        <X size={15} />
      </Button>
    </section>
  )
}
