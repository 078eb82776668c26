import {
  CHECKS,
  checkTitle,
  deleteRecords,
  formatTimecode,
  FRAME_RATES,
  type Acceptance,
  type Finding,
  type Weight,
} from '@yodel/core'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { messageOf } from '../../api/api.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { AcceptField } from '../../panes/findings/AcceptField.js'
import { findingKey, useFindings, type Findings } from '../../session/findings.js'
import { useReel } from '../../session/session.js'
import { Button } from '../../ui/Button.js'

/** As many findings of a check are listed before one asks for the others. */
const SHOWN = 12
/** What findings of a weight do, of one and of several. */
const WEIGHT_WORDS: Readonly<Record<Weight, readonly [one: string, several: string]>> = {
  stops: ['stops the turnover', 'stop the turnover'],
  mind: ['should be looked at', 'should be looked at'],
  tells: ['is only told', 'are only told'],
}

/** Everything that was found on the reel, the worst first, check by check, each line leading to its place on the Sheet. */
export function FindingList() {
  const { findings, measuredAt, error } = useFindings()
  const seq = useAppSelector((state) => state.document.settled.seq)
  if (error && !findings) return <p className="mt-3 text-gate">{messageOf(error)}</p>
  if (!findings) return <p className="mt-3 text-ink-2">Looking the reel through …</p>
  const groups = CHECKS.map(([check, title]) => ({
    ...{ check, title },
    found: findings.open.filter((finding) => finding.check === check),
  }))
  const worst = ({ found }: { found: readonly Finding[] }): number =>
    ['stops', 'mind', 'tells'].indexOf(found[0]?.weight ?? 'tells')
  const clean = groups.filter(({ check, found }) => found.length === 0 && !findings.left.includes(check))
  return (
    <>
      <Summary findings={findings} />
      <ul className="border-t border-line">
        {groups
          .filter(({ found }) => found.length > 0)
          .sort((a, b) => worst(a) - worst(b))
          .map((group) => (
            <Group key={group.check} {...group} />
          ))}
      </ul>
      {findings.accepted.size > 0 && <Accepted accepted={findings.accepted} />}
      <p className="mt-3 text-[12px] text-ink-2">
        <span className="text-(--fol)">✓</span> Nothing found: {clean.map(({ title }) => title).join(' · ')}
      </p>
      {measuredAt !== null && measuredAt < seq && (
        <p className="mt-1 text-[12px] text-ink-2" data-measured={measuredAt}>
          The mix was measured before the last changes; bounce it again to measure it as it is.
        </p>
      )}
      {findings.left.length > 0 && (
        <p className="mt-1 text-[12px] text-ink-2">
          Not looked for, since nothing is asked or the mix was not measured yet:{' '}
          {findings.left.map(checkTitle).join(' · ')}
        </p>
      )}
    </>
  )
}

function Summary({ findings: { open } }: { findings: Findings }) {
  const counts = (['stops', 'mind', 'tells'] as const).map(
    (weight) => [weight, open.filter((finding) => finding.weight === weight).length] as const,
  )
  const told = counts.filter(([, count]) => count > 0)
  return (
    <p className="mt-1 mb-3 text-ink-2" data-open={open.length}>
      {told.length === 0
        ? 'Nothing is open.'
        : told.map(([weight, count]) => `${count} ${WEIGHT_WORDS[weight][count === 1 ? 0 : 1]}`).join(', ')}
    </p>
  )
}

function Group({ check, title, found }: { check: string; title: string; found: readonly Finding[] }) {
  const [open, setOpen] = useState(found[0]?.weight === 'stops')
  const [all, setAll] = useState(false)
  const stops = found[0]?.weight === 'stops'
  const shown = all ? found : found.slice(0, SHOWN)
  return (
    <li className="border-b border-line py-1.5" data-check={check}>
      <button
        type="button"
        className="flex min-h-7 w-full items-center gap-3 rounded-[3px] text-left hover:bg-paper-2"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <b className={`w-10 text-right font-mono ${stops ? 'text-gate' : ''}`}>{found.length}</b>
        <b className="font-semibold">{title}</b>
        {!open && <span className="min-w-0 flex-1 truncate text-[12px] text-ink-2">{found[0]?.text}</span>}
      </button>
      {open && (
        <ul className="ml-[52px]">
          {shown.map((finding) => (
            <Line key={findingKey(finding)} finding={finding} />
          ))}
          {shown.length < found.length && (
            <li>
              <Button look="bare" onClick={() => setAll(true)}>
                {found.length - shown.length} more
              </Button>
            </li>
          )}
        </ul>
      )}
    </li>
  )
}

function Line({ finding }: { finding: Finding }) {
  const [accepting, setAccepting] = useState(false)
  return (
    <li className="flex items-center gap-2 text-[12.5px]" data-finding>
      <GoThere finding={finding} />
      {accepting ? (
        <AcceptField finding={finding} onDone={() => setAccepting(false)} />
      ) : (
        <Button look="bare" onClick={() => setAccepting(true)}>
          Accept …
        </Button>
      )}
    </li>
  )
}

/** A finding that leads to its place on the Sheet. */
function GoThere({ finding }: { finding: Finding }) {
  const reel = useReel()
  const commands = useCommands()
  const navigate = useNavigate()
  const go = (): void => {
    commands.findings.show(finding)
    void navigate(`/reels/${reel.id}`)
  }
  return (
    <button
      type="button"
      className="min-h-7 min-w-0 flex-1 rounded-[3px] py-0.5 text-left leading-snug hover:bg-paper-2"
      onClick={go}
      title="Show on the Sheet"
    >
      <span className="mr-2 font-mono text-[12px] text-ink-2">
        {finding.at
          ? formatTimecode(reel.firstFrame + finding.at.from, FRAME_RATES[reel.rate])
          : 'whole reel'}
      </span>
      {finding.text}
    </button>
  )
}

function Accepted({ accepted }: { accepted: ReadonlyMap<Finding, Acceptance> }) {
  const dispatch = useAppDispatch()
  return (
    <details className="border-b border-line py-1.5" data-accepted={accepted.size}>
      <summary className="min-h-7 cursor-pointer leading-7">
        <b className="font-semibold">{accepted.size} accepted</b>
      </summary>
      <ul className="ml-4">
        {[...accepted].map(([finding, { id, reason, by }]) => (
          <li key={id} className="flex items-center gap-2 text-[12.5px]">
            <GoThere finding={finding} />
            <span className="max-w-[45%] text-ink-2">
              {reason} ({by})
            </span>
            <Button look="bare" onClick={() => dispatch(edit((doc) => deleteRecords(doc, { ids: [id] })))}>
              Take back
            </Button>
          </li>
        ))}
      </ul>
    </details>
  )
}
