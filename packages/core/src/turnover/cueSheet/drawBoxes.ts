import type { DrawnBox, DrawnCue } from './drawn.js'
import type { TimeMap } from './packed.js'
import { heightOf, heightOfAll, setLines, type Line } from './setText.js'
import type { SheetBox } from './sheetBoxes.js'

/** Where things stand in a column, points from its left edge. */
const COLUMN = { line: 8, words: 16, pad: 4, aside: 4 } as const
/** Height of the shortest wedge, points. */
const WEDGE = 3
/** Points between a box's edge and its words. */
const GAP = 1

/** As many lines as find room above a limit. */
function fitting(lines: readonly Line[], top: number, limit: number): readonly Line[] {
  let bottom = top
  for (let count = 0; count < lines.length; count++) {
    bottom += heightOf(lines[count] as Line)
    if (bottom > limit + 0.01) return lines.slice(0, count)
  }
  return lines
}

/**
 * Draws a sound as it is on a page: its line, its fades, and of its words what finds room.
 *
 * @param place - Height of a frame on the page.
 * @param args.limit - Height that its words must not reach beyond: where the next words of the column begin.
 */
export function drawBox(
  box: SheetBox,
  map: TimeMap,
  place: (frame: number) => number,
  { x, limit }: { x: number; limit: number },
): DrawnBox {
  const fromAbove = box.from < map.from
  const toBelow = box.to > map.to
  const [top, bottom] = [place(box.from), place(box.to)]
  // A fade can be seen however short it is, and two of them never cross.
  const wedge = (height: number): number => Math.min(Math.max(height, WEDGE), (bottom - top) / 2)
  const isNamedHere = box.wordsFrom < map.to
  const wordsTop = place(Math.max(map.from, box.wordsFrom)) + GAP
  const end = box.end && !toBelow ? box.end : null
  const endHeight = end ? heightOf(end) : 0
  const endTop = bottom - endHeight
  // Above its end where the box is high enough; else wherever the column is still free.
  const all = isNamedHere ? box.lines : []
  const inside = fitting(all, wordsTop, endTop)
  const lines = inside.length === all.length ? inside : fitting(all, wordsTop, limit)
  const used = wordsTop + heightOfAll(lines)
  const isEndFree = end !== null && endTop >= used - 0.01
  const words = setLines(lines, x + COLUMN.words, wordsTop)
  return {
    clipId: box.id,
    // Two lines of a crossfade stand side by side.
    x: x + COLUMN.line + (box.wordsFrom > box.from ? COLUMN.aside : 0),
    top,
    bottom,
    fromAbove,
    toBelow,
    fadeIn: box.fadeIn > 0 && !fromAbove ? wedge(place(Math.min(box.to, box.from + box.fadeIn)) - top) : 0,
    fadeOut:
      box.fadeOut > 0 && !toBelow ? wedge(bottom - place(Math.max(box.from, box.to - box.fadeOut))) : 0,
    text: isEndFree ? words.concat(setLines([end], x + COLUMN.words, endTop)) : words,
    cut: lines.length < all.length || (end !== null && !isEndFree),
  }
}

/** Draws the cues that begin on a page; where several begin at once, or too near, what finds no room is left out. */
export function drawCues(
  boxes: readonly SheetBox[],
  place: (frame: number) => number,
  { x, limits }: { x: number; limits: ReadonlyMap<SheetBox, number> },
): DrawnCue[] {
  return boxes.flatMap((box) => {
    const y = place(box.from)
    const lines = fitting(box.lines, y + GAP, limits.get(box) ?? Infinity)
    return lines.length > 0 ? [{ cueId: box.id, y, text: setLines(lines, x + COLUMN.pad, y + GAP) }] : []
  })
}
