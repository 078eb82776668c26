import { heightOf, heightOfAll } from './setText.js'
import type { SheetBox } from './sheetBoxes.js'

/** A page's stretch of time, and how high each moment in it that matters stands below the page's top. */
export interface TimeMap {
  /** Frames, `[from, to)`. */
  readonly from: number
  readonly to: number
  /** Frames at which something starts or ends, rising, with their heights in points, never falling. */
  readonly frames: readonly number[]
  readonly heights: readonly number[]
}

/** Points between two moments that follow each other, however near they are, so that their order can be seen. */
const STEP = 1.5
/** Points kept free at the end of a page, for the marks of what goes on. */
const TAIL = 6

/** Height that a box's words need, its end included. */
export const roomOf = (box: SheetBox): number =>
  heightOfAll(box.lines) + (box.end ? heightOf(box.end) : 0) + 2

/**
 * Folds empty time away: from time to height, monotone, such that every box is high enough for its words. The least
 * heights are those of the longest path over starts and ends. Pages are as few as can be, and among those broken where
 * the fewest boxes are cut; a box that goes over a break has its words on both pages.
 *
 * @param boxes - By their first frame.
 * @param height - Points that a page has.
 */
export function packPages(boxes: readonly SheetBox[], height: number): TimeMap[] {
  const moments = [...new Set(boxes.flatMap(({ from, to, wordsFrom }) => [from, to, wordsFrom]))].sort(
    (a, b) => a - b,
  )
  const at = new Map(moments.map((frame, index) => [frame, index]))
  const indexed = boxes.map((box): Indexed => ({
    ...{ from: at.get(box.from) ?? 0, to: at.get(box.to) ?? 0, words: at.get(box.wordsFrom) ?? 0 },
    room: roomOf(box),
  }))
  const breaks = chooseBreaks(indexed, moments.length, height)
  return breaks.slice(1).map((end, index) => {
    const first = breaks[index] as number
    const page = new Growing(indexed, first)
    let used = 0
    for (let to = first + 1; to <= end; to++) used = page.grow(to)
    return {
      ...{ from: moments[first] as number, to: moments[end] as number },
      frames: moments.slice(first, end + 1),
      // What goes on needs its words on this page: the moment of the break stands below them.
      heights: [...page.heights.slice(0, -1), used],
    }
  })
}

/** A box by the numbers of its moments. */
interface Indexed {
  readonly from: number
  readonly to: number
  readonly words: number
  readonly room: number
}

/** The moments at which pages begin, and the last: fewest pages, then fewest cuts. */
function chooseBreaks(boxes: readonly Indexed[], moments: number, height: number): number[] {
  const last = moments - 1
  const best = Array.from({ length: moments }, () => ({ pages: Infinity, cuts: Infinity, next: last }))
  if (last < 1) return []
  best[last] = { pages: 0, cuts: 0, next: last }
  for (let first = last - 1; first >= 0; first--) {
    const page = new Growing(boxes, first)
    for (let end = first + 1; end <= last; end++) {
      // The stretch between two moments always goes on a page, or there would be no end.
      if (page.grow(end) > height && end > first + 1) {
        if (page.least > height) break
        continue
      }
      const rest = best[end] as (typeof best)[number]
      const [pages, cuts] = [rest.pages + 1, rest.cuts + page.cut]
      const known = best[first] as (typeof best)[number]
      if (pages < known.pages || (pages === known.pages && cuts <= known.cuts))
        best[first] = { pages, cuts, next: end }
    }
  }
  const breaks = [0]
  for (let at = 0; at < last;) {
    at = (best[at] as (typeof best)[number]).next
    breaks.push(at)
  }
  return breaks
}

/** A page that is filled moment by moment. */
class Growing {
  /** Heights of its moments, from the first. */
  readonly heights: number[] = [0]
  /** Height that is used whatever follows. */
  least = 0
  /** Boxes that would be cut if it ended where it is. */
  cut = 0
  private readonly open: { readonly to: number; readonly words: number; readonly room: number }[]
  private next: number

  constructor(
    private readonly boxes: readonly Indexed[],
    private readonly first: number,
  ) {
    const { firstFrom, openAt } = lookupOf(boxes)
    this.next = firstFrom(first)
    // What goes on from the page before has its words again, at the top.
    this.open = openAt(first).map(({ to, room }) => ({ to, words: first, room }))
  }

  /** Goes on to the next moment. @param end - Its number. @returns the height that the page needs if it ends there */
  grow(end: number): number {
    for (; (this.boxes[this.next]?.from ?? end) < end; this.next++)
      this.open.push(this.boxes[this.next] as Indexed)
    let y = (this.heights.at(-1) as number) + STEP
    for (let index = this.open.length - 1; index >= 0; index--) {
      const box = this.open[index] as (typeof this.open)[number]
      if (box.to !== end) continue
      y = Math.max(y, this.heightAt(box.words) + box.room)
      this.open.splice(index, 1)
    }
    this.heights.push(y)
    this.least = y
    this.cut = this.open.length
    // Words that begin at the break or later stand on the next page only.
    return this.open.reduce(
      (used, { words, room }) => (words < end ? Math.max(used, this.heightAt(words) + room + TAIL) : used),
      y,
    )
  }

  private heightAt(moment: number): number {
    return this.heights[Math.max(0, moment - this.first)] as number
  }
}

interface Lookup {
  firstFrom(moment: number): number
  openAt(moment: number): readonly Indexed[]
}
const lookups = new WeakMap<readonly Indexed[], Lookup>()

/** Finds boxes by moment; made once for a list. */
function lookupOf(boxes: readonly Indexed[]): Lookup {
  const known = lookups.get(boxes)
  if (known) return known
  const made: Lookup = {
    firstFrom: (moment) => {
      const found = boxes.findIndex(({ from }) => from >= moment)
      return found < 0 ? boxes.length : found
    },
    openAt: (moment) => boxes.filter(({ from, to }) => from < moment && to > moment),
  }
  lookups.set(boxes, made)
  return made
}
