import { CATEGORY_NAMES, cueCode, FRAME_RATES, formatTimecode, type Category, type Cue } from '@yodel/core'
import { memo, useMemo } from 'react'
import { useReel } from '../session/session.js'
import { STATE_MARKS } from '../ui/stateMarks.js'
import { fitText, widthOf } from '../ui/fitText.js'
import { CARD_LINE, LANES, layoutCueLane, type Card, type CardLook, type Stretch } from './geometry.js'

/** Pixels for words within a card. */
const ROOM = 130
const NONE: ReadonlyMap<string, string> = new Map()

/**
 * Brackets over the cues' spans and cards that never overlap, joined to their frame by leaders.
 *
 * @param cues - In the order of time.
 * @param badges - A short word beside the code of a cue, by id: open questions, what a comparison found.
 * @param faint - Whether a cue is drawn faintly.
 */
export const CueLane = memo(function CueLane(props: {
  stretch: Stretch
  left: number
  cues: readonly Cue[]
  selected: readonly string[]
  badges?: ReadonlyMap<string, string>
  pass?: Category | null
  faint?: (cue: Cue) => boolean
  onPick: (cue: Cue, add: boolean) => void
  name: string
}) {
  const { stretch, left, cues, selected, badges = NONE, pass = null, faint, onPick } = props
  const { length } = useReel()
  const { look, cards } = useMemo(
    () => layoutCueLane(cues, stretch.zoom, length),
    [cues, stretch.zoom, length],
  )
  const shown = cards.filter((card) => {
    const top = card.top + 70
    return (
      (top > stretch.from * stretch.zoom && card.top < stretch.to * stretch.zoom) ||
      card.cues.some((cue) => cue.out > stretch.from && cue.in < stretch.to)
    )
  })
  const isFaint = (card: Card): boolean =>
    (pass !== null && card.cues.every((cue) => cue.category !== pass)) ||
    (faint !== undefined && card.cues.every(faint))
  const picked = useMemo(() => new Set(selected), [selected])
  return (
    <div className="absolute top-0" style={{ left, width: LANES.cues }} data-lane={props.name}>
      <Leaders cards={shown} stretch={stretch} isFaint={isFaint} />
      {shown.map((card) => (
        <CueCard
          key={card.key}
          card={card}
          look={look}
          zoom={stretch.zoom}
          anchor={stretch.anchor}
          badge={look === 'counts' ? '' : (badges.get(card.key) ?? '')}
          selected={card.cues.some((cue) => picked.has(cue.id))}
          faint={isFaint(card)}
          onPick={onPick}
        />
      ))}
    </div>
  )
})

/** The lines from the frames of the cues to their cards. One drawing for all: each drawing is a node of its own in what the browser paints. */
function Leaders({
  cards,
  stretch,
  isFaint,
}: {
  cards: readonly Card[]
  stretch: Stretch
  isFaint: (card: Card) => boolean
}) {
  const { zoom, anchor } = stretch
  return (
    <svg className="pointer-events-none absolute top-0 left-0" width="12" height="1" aria-hidden>
      {cards.map((card) => {
        const first = card.cues[0] as Cue
        const start = (first.in - anchor) * zoom
        return (
          <path
            key={card.key}
            className={`ink-${first.category}`}
            d={`M0 ${start} L6 ${start} L12 ${card.top - anchor * zoom + 9}`}
            fill="none"
            stroke="var(--cat)"
            strokeOpacity={isFaint(card) ? 0.35 : 1}
            strokeWidth="1.3"
          />
        )
      })}
    </svg>
  )
}

/** What a card is called: what is read on it, in that order, and then what its ink says. */
function nameOf({ cues }: Card, look: CardLook, badge: string, time: string): string {
  const first = cues[0] as Cue
  const words = first.words || 'no words yet'
  const read = {
    full: [cueCode(first), badge, badge.length < 2 ? time : '', words],
    line: [cueCode(first), badge, words],
    counts: [cues.length === 1 ? `${cueCode(first)} ${words}` : `${cues.length} cues, first ${words}`],
  }[look]
  return `${read.filter(Boolean).join(' ')}, ${CATEGORY_NAMES[first.category]}`
}

const CueCard = memo(function CueCard(props: {
  card: Card
  look: CardLook
  zoom: number
  anchor: number
  badge: string
  selected: boolean
  faint: boolean
  onPick: (cue: Cue, add: boolean) => void
}) {
  const { card, look, zoom, anchor, badge, selected, faint, onPick } = props
  const reel = useReel()
  const first = card.cues[0] as Cue
  const time = formatTimecode(reel.firstFrame + first.in, FRAME_RATES[reel.rate]).slice(3)
  const top = card.top - anchor * zoom
  const start = (first.in - anchor) * zoom
  const tall = Math.max(2, (first.out - first.in) * zoom)
  const words =
    look === 'full' ? fitText(first.words || 'no words yet', '400 11.5px', ROOM - 17, card.lines) : ''
  const height = card.height + (words.split('\n').length - 1) * CARD_LINE
  return (
    <div className={`ink-${first.category} ${faint ? 'opacity-35' : ''}`}>
      {look !== 'counts' && (
        <div
          className="absolute left-[2px] w-[3px] bg-[color-mix(in_oklab,var(--cat)_55%,transparent)]"
          style={{ top: start, height: tall }}
        />
      )}
      <button
        type="button"
        data-cue={first.id}
        aria-label={nameOf(card, look, badge, time)}
        onClick={(event) => onPick(first, event.shiftKey || event.ctrlKey || event.metaKey)}
        className={`absolute left-3 w-[144px] rounded-[3px] border bg-card px-[6px] text-left ${selected ? 'border-gate ring-1 ring-gate' : 'border-line hover:border-ink-3'}`}
        style={{ top, height }}
        title={first.words}
      >
        {look === 'counts' ? (
          <span className="block text-[10.5px] leading-4 whitespace-pre">
            {card.cues.length === 1
              ? fitText(`${cueCode(first)} ${first.words}`, '400 10.5px', ROOM)
              : `${card.cues.length} cues`}
          </span>
        ) : (
          <>
            <span className="flex items-baseline gap-1.5 pt-px">
              <span className="text-[10.5px] font-bold tracking-wide whitespace-nowrap text-(--cat)">
                {cueCode(first)}
              </span>
              {badge && (
                <span
                  className={`text-[10.5px] font-bold whitespace-nowrap text-ink ${badge.length > 1 ? 'order-last ml-auto' : ''}`}
                >
                  {badge}
                </span>
              )}
              {look === 'line' && (
                <span
                  className={`text-[11px] whitespace-pre ${first.state === 'omitted' ? 'line-through' : ''}`}
                >
                  {fitText(
                    first.words,
                    '400 11px',
                    ROOM -
                      widthOf(cueCode(first), '700 10.5px') -
                      (badge ? widthOf(badge, '700 10.5px') + 6 : 0) -
                      9,
                  )}
                </span>
              )}
              {look === 'full' && badge.length < 2 && (
                <span className="ml-auto font-mono text-[10.5px] text-ink-2">{time}</span>
              )}
            </span>
            {look === 'full' && (
              <span className="flex items-baseline gap-1">
                <span
                  className={`text-[11.5px] leading-[14px] whitespace-pre ${first.state === 'omitted' ? 'line-through' : ''} ${first.words ? '' : 'text-ink-3'}`}
                >
                  {words}
                </span>
                <span className="ml-auto text-[11px] text-(--cat)" aria-hidden>
                  {STATE_MARKS[first.state]}
                </span>
              </span>
            )}
          </>
        )}
      </button>
    </div>
  )
})
