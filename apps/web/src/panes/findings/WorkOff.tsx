import { checkTitle, formatTimecode, FRAME_RATES } from '@yodel/core'
import { KeyOf } from '../../actions/useKeys.js'
import { ChevronDown, ChevronUp, X } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { useCommands } from '../../commands/CommandsProvider.js'
import { useAppSelector } from '../../document/store.js'
import { findingKey, useFindings } from '../../session/findings.js'
import { useReel } from '../../session/session.js'
import { Button } from '../../ui/Button.js'
import { AcceptField } from './AcceptField.js'

/** The finding that is being worked off, above the Sheet, with the way to the next one and back to the turnover. */
export function WorkOff() {
  const worked = useAppSelector((state) => state.view.workedOff)
  return worked === null ? null : <Strip worked={worked.key} />
}

function Strip({ worked }: { worked: string }) {
  const commands = useCommands()
  const reel = useReel()
  const { findings } = useFindings()
  const [accepting, setAccepting] = useState<string | null>(null)
  const open = findings?.open ?? []
  const at = open.findIndex((finding) => findingKey(finding) === worked)
  const finding = open[at]
  const time = finding?.at
    ? formatTimecode(reel.firstFrame + finding.at.from, FRAME_RATES[reel.rate])
    : 'whole reel'
  return (
    <section
      className="flex shrink-0 items-center gap-2 border-b border-line bg-card px-3 py-1 text-[12.5px]"
      aria-label="Findings"
      data-findings={open.length}
    >
      <Link to={`/reels/${reel.id}/turnover`} className="text-ink-2 underline">
        Turnover
      </Link>
      {finding ? (
        <>
          <span className="font-mono whitespace-nowrap text-ink-2">
            {at + 1} of {open.length}
          </span>
          <span className="font-mono">{time}</span>
          <span className="min-w-0 flex-1 truncate" title={`${checkTitle(finding.check)}: ${finding.text}`}>
            <b className={finding.weight === 'stops' ? 'text-gate' : ''}>{finding.text}</b>{' '}
            <span className="text-ink-2">{checkTitle(finding.check)}</span>
          </span>
          {accepting === worked ? (
            <AcceptField finding={finding} onDone={() => setAccepting(null)} />
          ) : (
            <Button onClick={() => setAccepting(worked)}>Accept …</Button>
          )}
        </>
      ) : (
        <span className="min-w-0 flex-1">
          {open.length === 0 ? 'Nothing is left to work off.' : 'That one is done.'}
          {open.length > 0 && <span className="text-ink-2"> {open.length} more</span>}
        </span>
      )}
      <Button look="bare" aria-label="Previous finding" onClick={() => commands.findings.next(-1)}>
        <ChevronUp size={15} />
      </Button>
      <Button look="bare" aria-label="Next finding" onClick={() => commands.findings.next(1)}>
        <ChevronDown size={15} /> <KeyOf action="next-finding" />
      </Button>
      <Button look="bare" aria-label="Put findings away" onClick={() => commands.findings.leave()}>
        <X size={15} />
      </Button>
    </section>
  )
}
