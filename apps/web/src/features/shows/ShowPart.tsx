import { FRAME_RATES, type Show } from '@yodel/core'
import { useState } from 'react'
import { useForm } from 'react-hook-form'
import { api, messageOf } from '../../api/api.js'
import { Button } from '../../ui/Button.js'
import { Refusal } from '../../ui/Refusal.js'
import { ReelRow } from './ReelRow.js'

/** A show: what it is called, and its reels. */
export function ShowPart({ show }: { show: Show }) {
  const [renaming, setRenaming] = useState(false)
  if (show.reels.length === 0) return null
  const rates = [...new Set(show.reels.map(({ reel }) => FRAME_RATES[reel.rate].label))]
  return (
    <section className="mb-8" aria-label={show.name}>
      {renaming ? (
        <RenameShow show={show} onDone={() => setRenaming(false)} />
      ) : (
        <div className="group flex items-baseline gap-3">
          <h1 className="text-[20px] font-bold tracking-tight">{show.name}</h1>
          <Button
            look="bare"
            className="opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
            onClick={() => setRenaming(true)}
          >
            Rename the show …
          </Button>
        </div>
      )}
      <p className="text-ink-2">
        {[show.company, ...rates, '48 kHz 24 bit stereo'].filter(Boolean).join(' · ')}
      </p>
      <ul className="mt-3 border-b border-line">
        {show.reels.map((reel) => (
          <ReelRow key={reel.id} summary={reel} />
        ))}
      </ul>
    </section>
  )
}

function RenameShow({ show, onDone }: { show: Show; onDone: () => void }) {
  const [rename, { error, isLoading }] = api.useRenameShowMutation()
  const { register, handleSubmit } = useForm({ defaultValues: { name: show.name, company: show.company } })
  const submit = handleSubmit(async ({ name, company }) => {
    const renamed = await rename({ id: show.id, name: name.trim(), company: company.trim() })
    if (!renamed.error) onDone()
  })
  const field = 'rounded-[5px] border border-line bg-card px-2 py-1'
  return (
    <form onSubmit={(event) => void submit(event)} className="flex flex-wrap items-end gap-2">
      <label className="text-[12px] text-ink-2">
        Name of the show
        <input
          required
          autoFocus
          className={`${field} block w-[320px] text-[14px] text-ink`}
          {...register('name')}
        />
      </label>
      <label className="text-[12px] text-ink-2">
        Company
        <input className={`${field} block w-[220px] text-ink`} {...register('company')} />
      </label>
      <Button look="strong" type="submit" disabled={isLoading}>
        Rename
      </Button>
      <Button onClick={onDone}>Cancel</Button>
      <Refusal text={error && messageOf(error)} />
    </form>
  )
}
