import type { KeptTurnover } from '@yodel/core'
import { useState } from 'react'
import { api, messageOf } from '../../../api/api.js'
import { useReel } from '../../../session/session.js'
import { Button } from '../../../ui/Button.js'
import { when } from '../../../ui/when.js'
import { CopyOut } from './CopyOut.js'
import { Since } from './Since.js'
import { ThrowAway } from './ThrowAway.js'
import { WentFiles } from './WentFiles.js'

/** A number of bytes as it is read out. */
const sizeText = (bytes: number): string =>
  bytes >= 1e9 ? `${(bytes / 1e9).toFixed(1)} GB` : `${Math.max(0.1, bytes / 1e6).toFixed(1)} MB`

/** Every turnover of the reel, the latest first: what it held, and what has changed since. */
export function WentList() {
  const { id } = useReel()
  const { data: turnovers, error } = api.useTurnoversQuery(id, { refetchOnFocus: true })
  return (
    <section aria-label="What went" className="mt-6">
      <h1 className="text-[16px] font-bold">What went</h1>
      {error ? <p className="mt-1 text-gate">{messageOf(error)}</p> : null}
      {turnovers?.length === 0 && <p className="mt-1 text-ink-2">Nothing yet.</p>}
      <ul className="mt-1 border-t border-line">
        {turnovers?.map((turnover) => (
          <Went key={turnover.id} turnover={turnover} />
        ))}
      </ul>
    </section>
  )
}

function Went({ turnover }: { turnover: KeptTurnover }) {
  const [shown, setShown] = useState<'files' | 'since' | null>(null)
  const { id, number, name, by, at, recipe, files, size, cleared } = turnover
  const toggle = (part: 'files' | 'since'): void => setShown(shown === part ? null : part)
  return (
    <li className="border-b border-line py-2" data-turnover={number}>
      <div className="flex items-baseline gap-2">
        <b className="w-6 font-mono">{number}</b>
        <b className="min-w-0 flex-1 truncate font-semibold">{name}</b>
        {cleared === null && (
          <a
            className="rounded-[5px] border border-line bg-card px-2 text-[12px] hover:border-ink-3"
            href={`/api/turnovers/${id}/package.zip`}
            download
          >
            ZIP, {sizeText(size)}
          </a>
        )}
      </div>
      <p className="ml-8 truncate text-[12px] text-ink-2">
        {recipe.name !== name && `${recipe.name}, `}
        {by}, <time dateTime={at}>{when(at, true)}</time>
      </p>
      {cleared !== null && (
        <p className="ml-8 text-[12px] text-ink-2">
          Files thrown away <time dateTime={cleared}>{when(cleared, true)}</time>
        </p>
      )}
      <div className="ml-6 flex flex-wrap gap-1">
        <Button look="bare" aria-expanded={shown === 'files'} onClick={() => toggle('files')}>
          {files} files
        </Button>
        <Button look="bare" aria-expanded={shown === 'since'} onClick={() => toggle('since')}>
          Since then
        </Button>
        {cleared === null && (
          <>
            <CopyOut id={id} />
            <ThrowAway id={id} size={sizeText(size)} />
          </>
        )}
      </div>
      {shown === 'files' && <WentFiles id={id} areThere={cleared === null} />}
      {shown === 'since' && <Since turnover={turnover} />}
    </li>
  )
}
