import { layoutCards, type Cue, type FrameRate } from '@yodel/core'

/** Widths of the fixed lanes in pixels. */
export const LANES = { timecode: 52, picture: 70, guide: 26, cues: 162 } as const
/** Height of the lanes' heads; of those of narrow tracks, whose switches stand one under the other. */
export const HEAD = 66
export const TALL_HEAD = 92
/** Where the gate stands, as a part of the Sheet's height. */
export const GATE = 0.4
/** Least width of a track, and where all are to be in sight. */
export const TRACK_WIDTH = 74
/** The narrowest of all that are to be in sight at once. */
export const NARROW_WIDTH = 30

/** What of the reel is drawn: frames `[from, to)` at a zoom. Tops are pixels below the anchor. */
export interface Stretch {
  readonly from: number
  readonly to: number
  /** Pixels a frame. */
  readonly zoom: number
  /** Frame that tops count from. It changes seldom, so that what stays drawn need not be placed anew. */
  readonly anchor: number
}

/** Pixels drawn above and below what can be seen. */
const MARGIN = 320
/** Pixels between anchors. */
const ANCHORS = 16_384

/** Height in pixels at which a frame (it may be a fraction) stands in a stretch. */
export function topOf(stretch: Stretch, frame: number): number {
  return (frame - stretch.anchor) * stretch.zoom
}

/** The stretch to draw around the gate: the visible one and a margin of so many pixels above and below. */
export function stretchAround(
  gateFrame: number,
  height: number,
  zoom: number,
  length: number,
  margin = MARGIN,
): Stretch {
  const from = Math.max(-1, Math.floor(gateFrame - (height * GATE + margin) / zoom))
  const to = Math.min(length + 1, Math.ceil(gateFrame + (height * (1 - GATE) + margin) / zoom))
  const step = Math.max(1, Math.round(ANCHORS / zoom))
  return { from, to, zoom, anchor: Math.max(0, Math.floor(from / step) * step) }
}

/** Says whether all that is visible around the gate lies in a stretch (or beyond the reel's ends). */
export function covers(stretch: Stretch, gateFrame: number, height: number, length: number): boolean {
  const above = gateFrame - (height * GATE) / stretch.zoom
  const below = gateFrame + (height * (1 - GATE)) / stretch.zoom
  return (above >= stretch.from || stretch.from <= -1) && (below <= stretch.to || stretch.to >= length + 1)
}

/** A line of the timecode lane. */
export interface Tick {
  readonly frame: number
  readonly major: boolean
}

const STEPS_SECONDS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200]

/** Lines of the timecode lane: named ones at least 44 px apart, plain ones between them where there is room. */
export function ticks(stretch: Stretch, rate: FrameRate, firstFrame: number): Tick[] {
  const base = rate.nominal
  const divisors = [1, 2, 3, 4, 5, 6, 8, 10, 12, 15].filter((step) => base % step === 0)
  const steps = [...divisors, ...STEPS_SECONDS.map((time) => time * base)]
  const step = steps.find((candidate) => candidate * stretch.zoom >= 44) ?? (steps.at(-1) as number)
  const minor =
    steps.findLast(
      (candidate) => candidate < step && step % candidate === 0 && candidate * stretch.zoom >= 9,
    ) ?? step
  const found: Tick[] = []
  const start = Math.ceil((firstFrame + Math.max(0, stretch.from)) / minor) * minor
  for (let count = start; count <= firstFrame + stretch.to; count += minor)
    found.push({ frame: count - firstFrame, major: count % step === 0 })
  return found
}

/** How the cards of the cue lane look at a zoom. */
export type CardLook = 'full' | 'line' | 'counts'

const CARD_HEIGHT = { full: 36, line: 18, counts: 18 } as const

/** A card of the cue lane: one cue, or a count of several. */
export interface Card {
  readonly key: string
  readonly cues: readonly Cue[]
  /** Frame that the card belongs to. */
  readonly frame: number
  /** Pixels from the reel's first frame. */
  readonly top: number
  /** With words on one line. */
  readonly height: number
  /** As many lines of words have room above the next card; 1 where a card has one line at all. */
  readonly lines: number
}

/** Pixels between cards, and of a further line of words. */
const CARD_GAP = 4
/** Height of a further line of words, in pixels. */
export const CARD_LINE = 14
const MOST_LINES = 3

/**
 * Lays out the cards of all cues of a reel for a zoom: full cards where they fit, one-line cards closer together,
 * counts where even those would not fit beside their frames.
 */
export function layoutCueLane(
  cues: readonly Cue[],
  zoom: number,
  length: number,
): { look: CardLook; cards: Card[] } {
  const room = length * zoom
  const look: CardLook =
    cues.length * 40 < room && zoom >= 0.8 ? 'full' : cues.length * 20 < room ? 'line' : 'counts'
  const height = CARD_HEIGHT[look]
  const groups = look === 'counts' ? bucket(cues, 44 / zoom) : cues.map((cue) => [cue])
  const wishes = groups.map((group) => ({
    id: group[0]?.id ?? '',
    wanted: (group[0]?.in ?? 0) * zoom,
    height,
  }))
  const places = layoutCards(wishes, CARD_GAP, 0)
  const lines = (index: number): number => {
    const below = places[index + 1]?.top ?? Infinity
    const free = below - CARD_GAP - (places[index]?.top ?? 0) - height
    return look === 'full' ? Math.min(MOST_LINES, 1 + Math.max(0, Math.floor(free / CARD_LINE))) : 1
  }
  return {
    look,
    cards: groups.map((group, index) => ({
      key: group[0]?.id ?? '',
      cues: group,
      frame: group[0]?.in ?? 0,
      top: places[index]?.top ?? 0,
      height,
      lines: lines(index),
    })),
  }
}

function bucket(cues: readonly Cue[], frames: number): Cue[][] {
  const groups: Cue[][] = []
  let end = -1
  for (const cue of cues) {
    if (cue.in >= end) {
      groups.push([])
      end = cue.in + frames
    }
    groups.at(-1)?.push(cue)
  }
  return groups
}

/** Frames between the thumbnails of the picture strip, and whether they come from the sheet with one a second. */
export function stripStep(zoom: number, rate: FrameRate): { step: number; sparse: boolean } {
  const wanted = 34 / zoom
  const fine = [1, 2, 3, 4, 6, 8, 12, 16, 20, 24].find((step) => step >= wanted && step < rate.nominal)
  if (fine) return { step: fine, sparse: false }
  return { step: Math.max(1, Math.ceil(wanted / rate.nominal)) * rate.nominal, sparse: true }
}
