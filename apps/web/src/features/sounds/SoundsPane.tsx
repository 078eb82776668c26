import { cueCode, type Sound } from '@yodel/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import { Search } from 'lucide-react'
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { api, messageOf } from '../../app/api.js'
import { useAppDispatch, useAppSelector } from '../../app/store.js'
import { Wave } from '../../sheet/Wave.js'
import { useCommands } from '../reel/commands.js'
import { ListeningStrip } from './ListeningStrip.js'
import { tryActions } from './trySlice.js'

const ROW = 62

/** Search, results and the listening strip. Arrow keys go through the results and let each be heard at once. */
export function SoundsPane() {
  const dispatch = useAppDispatch()
  const commands = useCommands()
  const { query, queryOf, sound, place } = useAppSelector((state) => state.trying)
  const cue = useAppSelector((state) => (queryOf ? state.document.doc.cue[queryOf] : undefined))
  const settled = useSettled(query, 90)
  const { data, error, isFetching, fetchNextPage, hasNextPage } = api.useSoundsInfiniteQuery(settled)
  const sounds = useMemo(() => data?.pages.flatMap((page) => page.sounds) ?? [], [data])
  const first = data?.pages[0]
  const list = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({ count: sounds.length, getScrollElement: () => list.current, estimateSize: () => ROW, overscan: 4 })
  const visible = rows.getVirtualItems()
  const last = visible.at(-1)?.index ?? 0
  useEffect(() => {
    if (last >= sounds.length - 8 && hasNextPage && !isFetching) void fetchNextPage()
  }, [last, sounds.length, hasNextPage, isFetching, fetchNextPage])

  const choose = (index: number): void => {
    const chosen = sounds[index]
    if (!chosen) return
    dispatch(tryActions.choose(chosen))
    rows.scrollToIndex(index)
    const next = sounds[index + 1]
    if (next) commands.prepare(next)
    // While trying, the next candidate takes its place in the loop; otherwise it is heard by itself.
    if (place === null) commands.listen(chosen)
    else commands.tryHere()
  }
  const onKeyDown = (event: KeyboardEvent): void => {
    const at = sound ? sounds.findIndex((candidate) => candidate.id === sound.id) : -1
    const act: Record<string, () => void> = {
      ArrowDown: () => choose(Math.min(sounds.length - 1, at + 1)),
      ArrowUp: () => choose(Math.max(0, at - 1)),
      Enter: () => {
        if (at < 0) choose(0)
        if (commands.trying()) commands.keep()
        else commands.tryHere()
      },
      Escape: () => {
        if (commands.trying()) commands.putBack()
        else {
          commands.stopListening()
          ;(event.target as HTMLElement).blur()
        }
      },
    }
    const run = act[event.key]
    if (!run || event.altKey || event.ctrlKey) return
    event.preventDefault()
    event.stopPropagation()
    run()
  }
  return (
    <aside className="flex w-[306px] shrink-0 flex-col border-l border-line bg-paper" aria-label="Sounds" data-sounds>
      <div className="m-3 flex h-[34px] items-center gap-2 rounded-[6px] border-[1.5px] border-ink bg-card px-2.5 focus-within:border-focus">
        <Search size={15} aria-hidden />
        <input
          data-search
          type="search"
          aria-label="Search sounds"
          placeholder="Search all sounds"
          className="min-w-0 flex-1 bg-transparent text-[14px] outline-none placeholder:text-ink-3"
          value={query}
          onChange={(event) => dispatch(tryActions.search({ query: event.target.value }))}
          onKeyDown={onKeyDown}
        />
        {cue && <span className="text-[11.5px] text-ink-3">from {cueCode(cue)}</span>}
      </div>
      <p className="px-3 pb-2 text-[11.5px] text-ink-2" role="status">
        {error
          ? messageOf(error)
          : first?.nearest
            ? sounds.length > 0
              ? `Nothing is called “${settled}”. The nearest:`
              : `Nothing is called “${settled}”, and nothing is near. Try fewer or other words.`
            : first
              ? `${first.total.toLocaleString('en')} sounds${settled ? '' : ', all shelves'}`
              : 'Searching …'}
        {first && first.total === 0 && !settled && ' Add a folder of recordings under Sounds.'}
      </p>
      <div ref={list} className="min-h-0 flex-1 overflow-y-auto outline-none" tabIndex={0} role="listbox" aria-label="Results" onKeyDown={onKeyDown}>
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {visible.map((row) => {
            const result = sounds[row.index]
            return result ? (
              <Result key={result.id} sound={result} top={row.start} chosen={result.id === sound?.id} onChoose={() => choose(row.index)} onTry={commands.tryHere} />
            ) : null
          })}
        </div>
      </div>
      {sound && <ListeningStrip sound={sound} />}
    </aside>
  )
}

function Result({ sound, top, chosen, onChoose, onTry }: { sound: Sound; top: number; chosen: boolean; onChoose: () => void; onTry: () => void }) {
  return (
    <div
      role="option"
      aria-selected={chosen}
      data-sound={sound.id}
      onClick={onChoose}
      onDoubleClick={onTry}
      className={`absolute inset-x-0 cursor-pointer border-t border-hair px-3 pt-1.5 ${chosen ? 'bg-card shadow-[inset_4px_0_0_var(--gate)]' : 'hover:bg-card'}`}
      style={{ top, height: ROW }}
    >
      <div className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1 truncate font-semibold">{sound.name}</span>
        <span className="font-mono text-[11.5px] text-ink-2">{lengthOf(sound.length)}</span>
      </div>
      <div className="flex items-baseline gap-2 text-[11.5px] text-ink-2">
        <span className="min-w-0 flex-1 truncate">{sound.description}</span>
        <span>{sound.channels === 1 ? 'mono' : sound.channels === 2 ? 'stereo' : `${sound.channels} ch`}</span>
      </div>
      <Wave mediaId={sound.id} from={0} to={sound.length} width={282} height={16} colour={chosen ? '--gate' : '--ink-3'} opacity={0.8} />
    </div>
  )
}

/** A length in samples as `2.4 s` or `1:05`. */
export function lengthOf(samples: number): string {
  const time = samples / 48_000
  return time < 60 ? `${time.toFixed(1)} s` : `${Math.floor(time / 60)}:${String(Math.floor(time % 60)).padStart(2, '0')}`
}

/** A value once it has stood still for a while. */
function useSettled(value: string, delayMs: number): string {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), delayMs)
    return () => clearTimeout(timer)
  }, [value, delayMs])
  return settled
}
