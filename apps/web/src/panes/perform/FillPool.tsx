import type { PoolMember, Sound } from '@yodel/core'
import { useState } from 'react'
import { api } from '../../api/api.js'
import { poolsApi } from '../../api/poolsApi.js'
import { eventsOf } from '../../commands/events.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'

/** So many results of a search or sounds of a kit go in at once. */
const MOST = 60

const wholeOf = ({ id, name }: Pick<Sound, 'id' | 'name'>): PoolMember => ({
  ...{ soundId: id, name, part: null, weight: 1 },
})

/** The ways to fill a pool: the chosen sound, its events, the marked results, a kit, a search. */
export function FillPool({
  onFill,
}: {
  /** @param first - What a new pool is called and filed by: its name, and the first sound in it */
  onFill: (members: readonly PoolMember[], first: { called: string; sound: Sound }) => void
}) {
  const dispatch = useAppDispatch()
  const { sound, prepared } = useAppSelector((state) => state.trying)
  const { data: kits = [] } = api.useKitsQuery()
  const [find] = poolsApi.useLazyFirstSoundsQuery()
  const [byIds] = api.useLazySoundsByIdsQuery()
  const marked = useAppSelector((state) => state.search.marked)
  const [query, setQuery] = useState('')
  const [found, setFound] = useState<number | null>(null)
  const fillBy = async (params: { q: string; kit?: string }, called: string): Promise<void> => {
    const { data } = await find(params)
    const sounds = (data?.sounds ?? []).slice(0, MOST)
    setFound(sounds.length)
    const [first] = sounds
    if (first) onFill(sounds.map(wholeOf), { called, sound: first })
  }
  const fillByMarks = async (): Promise<void> => {
    const known = new Map((await byIds([...marked])).data?.map((one) => [one.id, one]))
    const sounds = marked.flatMap((id) => known.get(id) ?? [])
    const [first] = sounds
    if (first) onFill(sounds.map(wholeOf), { called: first.name.replace(/[\s\d]+$/, ''), sound: first })
  }
  const chosen = (): void => {
    if (!sound) return
    const from = prepared.in ?? 0
    const to = prepared.out ?? sound.length
    const sync = Math.max(from, Math.min(to - 1, prepared.sync ?? sound.sync))
    const isWhole = prepared.in === null && prepared.out === null && prepared.sync === null
    onFill([{ ...wholeOf(sound), part: isWhole ? null : { from, sync, to } }], { called: sound.name, sound })
  }
  const events = async (): Promise<void> => {
    if (!sound) return
    const all = await eventsOf(dispatch, sound.id)
    onFill(
      all.map(([from, sync, to], index) => ({
        ...{ soundId: sound.id, name: `${sound.name}, event ${index + 1}`, weight: 1 },
        part: { from, sync: Math.max(from, Math.min(to - 1, sync)), to },
      })),
      { called: sound.name, sound },
    )
  }
  return (
    <div className="mt-3 flex flex-wrap items-center gap-1.5 border-t border-line pt-2 text-[12px]">
      <span className="text-ink-2">Put in</span>
      <Button disabled={!sound} title={sound?.name ?? 'Choose a sound in the pane first'} onClick={chosen}>
        the chosen sound
      </Button>
      <Button disabled={!sound || sound.events < 2} onClick={() => void events()}>
        its {sound && sound.events > 1 ? sound.events : ''} events
      </Button>
      {marked.length > 1 && (
        <Button onClick={() => void fillByMarks()}>the {marked.length} marked results</Button>
      )}
      <Choice
        label="A kit"
        value=""
        options={[['', 'a kit …'] as const, ...kits.map(({ id, name }) => [id, name] as const)]}
        onChange={(kit) =>
          kit !== '' && void fillBy({ q: '', kit }, kits.find(({ id }) => id === kit)?.name ?? '')
        }
      />
      <form
        className="flex items-center gap-1.5"
        onSubmit={(event) => {
          event.preventDefault()
          event.stopPropagation()
          if (query.trim() !== '') void fillBy({ q: query.trim() }, query.trim())
        }}
      >
        <input
          aria-label="What a search finds"
          placeholder="what a search finds, then Enter"
          value={query}
          onChange={(event) => setQuery(event.target.value)}
          className="h-7 w-[190px] rounded-[3px] border border-line bg-paper px-2"
        />
      </form>
      {found === 0 && (
        <span role="status" className="text-gate">
          Nothing was found.
        </span>
      )}
    </div>
  )
}
