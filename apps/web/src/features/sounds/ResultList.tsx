import { formatTimecode, FRAME_RATES, reelOf, sampleToFrame, type FoundSound, type Match, type ReelDocument } from '@yodel/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useRef, type DragEvent, type KeyboardEvent, type MouseEvent } from 'react'
import { useAppDispatch, useAppSelector } from '../../app/store.js'
import { SOUND_DRAG } from '../../sheet/useSoundDrop.js'
import { Wave } from '../../sheet/Wave.js'
import { channelsOf, lengthOf } from './describe.js'
import { Qualities } from './Qualities.js'
import { tryActions } from './trySlice.js'
import type { Search } from './useSearch.js'

const ROW = 62
/** A sound used within so many seconds of the place that is searched for may be heard as the same again. */
const NEAR_S = 60

/** Results under each other. Which is chosen, and what keys do, is the place's own. */
export function ResultList(props: {
  search: Search
  width: number
  chosenId: string | null
  /** Those that an act on several works on; the chosen one alone when empty. */
  marked: ReadonlySet<string>
  onChoose: (index: number, event?: MouseEvent) => void
  onTry: (() => void) | null
  onKeyDown: (event: KeyboardEvent) => void
}) {
  const { search, chosenId, marked } = props
  const dispatch = useAppDispatch()
  const { sounds, more } = search
  const list = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({ count: sounds.length, getScrollElement: () => list.current, estimateSize: () => ROW, overscan: 6 })
  const visible = rows.getVirtualItems()
  const last = visible.at(-1)?.index ?? 0
  useEffect(() => {
    if (last >= sounds.length - 20) more?.()
  }, [last, sounds.length, more])
  const at = sounds.findIndex((sound) => sound.id === chosenId)
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at)
    // Only when another is chosen: scrolling by hand must not be undone.
  }, [chosenId])
  useEffect(() => {
    list.current?.scrollTo({ top: 0 })
  }, [search.params])
  const near = useNearUses()
  return (
    <div
      ref={list}
      className="min-h-0 flex-1 overflow-y-auto outline-none focus-visible:bg-paper-2"
      tabIndex={0}
      role="listbox"
      data-shown={search.shown ?? undefined}
      aria-label="Results"
      onKeyDown={props.onKeyDown}
    >
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {visible.map((row) => {
          const sound = sounds[row.index]
          return sound ? (
            <Result
              key={sound.id}
              sound={sound}
              top={row.start}
              width={props.width}
              chosen={sound.id === chosenId}
              marked={marked.has(sound.id)}
              near={near.get(sound.id) ?? null}
              onChoose={(event) => props.onChoose(row.index, event)}
              onTry={props.onTry}
              onDragStart={(event) => {
                event.dataTransfer.setData(SOUND_DRAG, sound.id)
                if (sound.id !== chosenId) dispatch(tryActions.choose(sound))
              }}
            />
          ) : null
        })}
      </div>
    </div>
  )
}

function Result(props: {
  sound: FoundSound
  top: number
  width: number
  chosen: boolean
  marked: boolean
  near: string | null
  onChoose: (event: MouseEvent) => void
  onTry: (() => void) | null
  onDragStart: (event: DragEvent) => void
}) {
  const { sound, top, width, chosen, marked, near } = props
  const why = sound.why.filter((match) => match.field !== 'name' || match.how !== 'typed')
  return (
    <div
      role="option"
      aria-selected={chosen || marked}
      data-sound={sound.id}
      onClick={props.onChoose}
      onDoubleClick={props.onTry ?? undefined}
      draggable={props.onTry !== null}
      onDragStart={props.onDragStart}
      className={`absolute inset-x-0 cursor-pointer border-t border-hair px-3 pt-1 ${chosen ? 'bg-card shadow-[inset_4px_0_0_var(--gate)]' : marked ? 'bg-card shadow-[inset_4px_0_0_var(--ink-3)]' : 'hover:bg-card'}`}
      style={{ top, height: ROW }}
    >
      <div className="flex items-baseline gap-2">
        <span className={`min-w-0 flex-1 truncate font-semibold ${sound.missing ? 'line-through' : ''}`}>
          <Marked text={sound.name} matches={sound.why.filter((match) => match.field === 'name')} />
        </span>
        {sound.rating > 0 && (
          <span className="text-[11px]" title={`${sound.rating} of 5`}>
            {'★'.repeat(sound.rating)}
          </span>
        )}
        {sound.events > 1 && <span className="text-[11.5px] text-ink-2">{sound.events} events</span>}
        <span className="font-mono text-[11.5px] text-ink-2">{lengthOf(sound.length)}</span>
      </div>
      <div className="flex items-baseline gap-2 text-[11.5px] text-ink-2">
        <span className="min-w-0 flex-1 truncate">
          {near ? <b className="font-semibold text-gate">used at {near} · </b> : null}
          {why.length > 0 ? why.map((match) => reason(match)).join(', ') : sound.description || sound.path}
        </span>
        <span>{channelsOf(sound.channels)}</span>
      </div>
      <div className="flex items-center gap-2 pt-px">
        <Wave mediaId={sound.id} from={0} to={sound.length} width={width - 24 - 42} height={18} colour={chosen ? '--gate' : '--ink-3'} opacity={0.8} />
        <Qualities sound={sound} />
      </div>
    </div>
  )
}

const WHERE: Readonly<Record<Match['field'], string>> = {
  name: 'name',
  keywords: 'keywords',
  tags: 'tags',
  description: 'description',
  note: 'note',
  category: 'category',
  folders: 'folder',
}

/** Why a result was found, where its name alone does not show it. */
function reason(match: Match): string {
  if (match.how === 'typed') return `“${match.found}” in ${WHERE[match.field]}`
  if (match.how === 'within') return `“${match.found}” in ${WHERE[match.field]}`
  if (match.how === 'respelt') return `“${match.found}”, spelt like ${match.typed}`
  return match.how === 'translated' ? `“${match.found}” is ${match.typed}` : `“${match.found}”, akin to ${match.typed}`
}

/** A text with the words that were met underlined. */
function Marked({ text, matches }: { text: string; matches: readonly Match[] }) {
  if (matches.length === 0) return <>{text}</>
  const found = new Set(matches.map((match) => match.found))
  return (
    <>
      {text.split(/(?<=[^\p{L}\p{N}\p{M}])|(?=[^\p{L}\p{N}\p{M}])/u).map((piece, index) =>
        found.has(piece.toLowerCase()) ? (
          <u key={index} className="decoration-gate decoration-2 underline-offset-2">
            {piece}
          </u>
        ) : (
          piece
        ),
      )}
    </>
  )
}

/** Sounds that are placed near the selected cue, by the timecode of the nearest place: so that no step is heard twice by accident. */
function useNearUses(): ReadonlyMap<string, string> {
  const doc = useAppSelector((state) => state.document.doc)
  const cueId = useAppSelector((state) => state.view.selected.find((id) => state.document.doc.cue[id]))
  const cue = cueId === undefined ? undefined : doc.cue[cueId]
  return cue ? nearUses(doc, cue.sync) : new Map()
}

/** Sounds used within a minute of a frame, with the timecode of the nearest use. */
export function nearUses(doc: ReelDocument, frame: number): Map<string, string> {
  const reel = reelOf(doc)
  const rate = FRAME_RATES[reel.rate]
  const best = new Map<string, number>()
  for (const clip of Object.values(doc.clip)) {
    const at = sampleToFrame(clip.start + clip.sync - clip.offset, rate)
    const away = Math.abs(at - frame)
    const known = best.get(clip.soundId)
    if (away <= NEAR_S * rate.nominal && (known === undefined || away < Math.abs(known - frame))) best.set(clip.soundId, at)
  }
  return new Map([...best].map(([id, at]) => [id, formatTimecode(at + reel.firstFrame, rate)]))
}
