import type { OpenQuestion, ReelSummary, Show } from '@yodel/core'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { api } from '../../api/api.js'
import { when } from '../../ui/when.js'

/** As many lines of one kind are shown. */
const SHOWN = 8

/** What is asked, the last milestones and the shelves, beside the reels. */
export function Beside({ shows }: { shows: readonly Show[] }) {
  const reels = shows.flatMap((show) => show.reels)
  return (
    <aside
      className="hidden w-[300px] shrink-0 overflow-y-auto border-l border-line bg-card px-4 py-6 lg:block"
      aria-label="What is asked, milestones, shelves"
    >
      <Group title="Open questions">
        {reels.map((reel) => (
          <Questions key={reel.id} reel={reel} />
        ))}
      </Group>
      <Group title="Milestones">
        {reels.map((reel) => (
          <Milestones key={reel.id} reel={reel} />
        ))}
      </Group>
      <Shelves />
    </aside>
  )
}

/** A heading with lines under it; says "None." where there are none. */
function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-7">
      <h2 className="pb-1.5 text-[13px] font-bold">{title}</h2>
      <ul className="border-b border-line empty:border-0 empty:after:text-ink-3 empty:after:content-['None.']">
        {children}
      </ul>
    </section>
  )
}

const line = 'border-t border-line py-1.5 text-[12.5px] leading-snug'

function Questions({ reel }: { reel: ReelSummary }) {
  const { data } = api.useReelProgressQuery(reel.id)
  return (data?.questions ?? []).slice(0, SHOWN).map((question: OpenQuestion) => (
    <li key={question.id} className={line}>
      <Link to={`/reels/${reel.id}?at=${question.frame}`} className="block hover:underline">
        <b className="font-semibold">{question.author}</b> asks {question.to && <>{question.to} </>}
        {question.cue ? `on ${question.cue}` : `in ${reel.reel.name}`}: {question.words}{' '}
        <span className="whitespace-nowrap text-ink-3">{when(question.at)}</span>
      </Link>
    </li>
  ))
}

function Milestones({ reel }: { reel: ReelSummary }) {
  const { data = [] } = api.useMilestonesQuery(reel.id)
  return data.slice(0, 3).map(({ id, name, at }) => (
    <li key={id} className={line}>
      <b className="font-semibold">{reel.reel.name}</b> {name}, {when(at)}
    </li>
  ))
}

function Shelves() {
  const { data: shelves = [] } = api.useShelvesQuery()
  const sounds = shelves.reduce((sum, shelf) => sum + shelf.sounds, 0)
  const away = shelves.filter((shelf) => shelf.away)
  return (
    <Group title="Shelves">
      <li className={line}>
        <Link to="/sounds" className="hover:underline">
          {shelves.length === 0
            ? 'None yet: choose a folder of recordings'
            : `${shelves.length} ${shelves.length === 1 ? 'shelf' : 'shelves'}, ${sounds.toLocaleString('en')} sounds${away.length === 0 ? ', all there' : ''}`}
        </Link>
      </li>
      {away.map(({ id, name }) => (
        <li key={id} className={`${line} text-gate`}>
          {name} is away: connect its disk.
        </li>
      ))}
    </Group>
  )
}
