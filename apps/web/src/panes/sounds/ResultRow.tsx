import type { FoundSound, Match } from '@yodel/core'
import { memo, type DragEvent, type MouseEvent } from 'react'
import { Wave } from '../../ui/Wave.js'
import { fitText, widthOf } from '../../ui/fitText.js'
import { channelsOf, lengthOf } from './describe.js'
import { Qualities } from './Qualities.js'

/** Height of a row in pixels. */
export const ROW = 62

/** What the pointer does with a row. */
export interface RowActs {
  readonly choose: (index: number, event: MouseEvent) => void
  readonly use: () => void
  readonly drag: (event: DragEvent, sound: FoundSound) => void
}

/** One result: what it is, why it was found, how it looks and sounds. */
export const ResultRow = memo(function ResultRow(props: {
  sound: FoundSound
  index: number
  top: number
  width: number
  chosen: boolean
  marked: boolean
  near: string | null
  draggable: boolean
  acts: RowActs
}) {
  const { sound, index, top, width, chosen, marked, near, draggable, acts } = props
  const why = sound.why.filter((match) => match.field !== 'name' || match.how !== 'typed')
  const said = why.length > 0 ? why.map((match) => reason(match)).join(', ') : sound.description || sound.path
  const nearWords = near ? `used at ${near} · ` : ''
  return (
    <div
      role="option"
      aria-selected={chosen || marked}
      data-sound={sound.id}
      onClick={(event) => acts.choose(index, event)}
      onDoubleClick={acts.use}
      draggable={draggable}
      onDragStart={(event) => acts.drag(event, sound)}
      className={`absolute inset-x-0 cursor-pointer border-t border-hair px-3 pt-1 ${chosen ? 'bg-card shadow-[inset_4px_0_0_var(--gate)]' : marked ? 'bg-card shadow-[inset_4px_0_0_var(--ink-3)]' : 'hover:bg-card'}`}
      style={{ top, height: ROW }}
    >
      <div className="flex items-baseline gap-2">
        <span
          className={`min-w-0 flex-1 font-semibold whitespace-pre ${sound.missing ? 'line-through' : ''}`}
          title={sound.name}
        >
          <Marked
            text={fitText(sound.name, '600 13px', width - 24 - besideName(sound))}
            matches={sound.why.filter((match) => match.field === 'name')}
          />
        </span>
        {sound.rating > 0 && (
          <span className="text-[11px]" title={`${sound.rating} of 5`}>
            {'★'.repeat(sound.rating)}
          </span>
        )}
        {sound.events > 1 && (
          <span className="text-[11.5px] whitespace-nowrap text-ink-2">{sound.events} events</span>
        )}
        <span className="font-mono text-[11.5px] text-ink-2">{lengthOf(sound.length)}</span>
      </div>
      <div className="flex items-baseline gap-2 text-[11.5px] text-ink-2">
        <span className="min-w-0 flex-1 whitespace-pre" title={said}>
          {near ? <b className="font-semibold text-gate">{nearWords}</b> : null}
          {fitText(
            said,
            '400 11.5px',
            width -
              24 -
              8 -
              widthOf(nearWords, '600 11.5px') -
              widthOf(channelsOf(sound.channels), '400 11.5px'),
          )}
        </span>
        <span>{channelsOf(sound.channels)}</span>
      </div>
      <div className="flex items-center gap-2 pt-px">
        <Wave
          mediaId={sound.id}
          from={0}
          to={sound.length}
          width={width - 24 - 42}
          height={18}
          colour={chosen ? '--gate' : '--ink-3'}
          opacity={0.8}
        />
        <Qualities sound={sound} />
      </div>
    </div>
  )
})

/** Pixels that stand at the right of a result's name: its rating, its events, its length, and the gaps before them. */
function besideName(sound: FoundSound): number {
  const events = sound.events > 1 ? widthOf(`${sound.events} events`, '400 11.5px') + 8 : 0
  const stars = sound.rating > 0 ? widthOf('★', '400 11px') * sound.rating + 8 : 0
  return stars + events + lengthOf(sound.length).length * 7 + 8
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
  return match.how === 'translated'
    ? `“${match.found}” is ${match.typed}`
    : `“${match.found}”, akin to ${match.typed}`
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
