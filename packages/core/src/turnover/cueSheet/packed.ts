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
/** More pages, or cuts, than there can be. */
const FAR = 0x3fff_ffff
/** Points kept free at the end of a page, for the marks of what goes on. */
const TAIL = 6

/** Height that a box's words need, its end included. */
const roomOf = (box: SheetBox): number => heightOfAll(box.lines) + (box.end ? heightOf(box.end) : 0) + 2

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
  if (last < 1) return []
  // Of the best pages from each moment on: how many, how many boxes they cut, where the first of them ends.
  const pages = new Int32Array(moments).fill(FAR)
  const cuts = new Int32Array(moments).fill(FAR)
  const next = new Int32Array(moments)
  pages[last] = cuts[last] = 0
  for (let first = last - 1; first >= 0; first--) {
    const page = new Growing(boxes, first)
    for (let end = first + 1; end <= last; end++) {
      // The stretch between two moments always goes on a page, or there would be no end.
      if (page.grow(end) > height && end > first + 1) {
        if (page.least > height) break
        continue
      }
      const count = (pages[end] as number) + 1
      const cut = (cuts[end] as number) + page.cut
      const fewer = count - (pages[first] as number)
      if (fewer > 0 || (fewer === 0 && cut > (cuts[first] as number))) continue
      pages[first] = count
      cuts[first] = cut
      next[first] = end
    }
  }
  const breaks = [0]
  for (let at = 0; at < last;) {
    at = next[at] as number
    breaks.push(at)
  }
  return breaks
}

/** A box that is open on a page: where its words stand there, and how much room they need. */
interface Open {
  readonly to: number
  readonly words: number
  readonly room: number
}

/** A page that is filled moment by moment. */
class Growing {
  /** Heights of its moments, from the first. */
  readonly heights: number[] = [0]
  /** Height that is used whatever follows. */
  least = 0
  /** Boxes that would be cut if it ended where it is. */
  cut = 0
  private readonly open: Open[]
  private next: number

  constructor(
    private readonly boxes: readonly Indexed[],
    private readonly first: number,
  ) {
    const { next, open } = lookupOf(boxes)
    this.next = next[first] ?? boxes.length
    // What goes on from the page before has its words again, at the top.
    this.open = (open[first] ?? []).map(({ to, room }) => ({ to, words: first, room }))
  }

  /** Goes on to the next moment. @param end - Its number. @returns the height that the page needs if it ends there */
  grow(end: number): number {
    const { boxes, open, heights } = this
    for (; (boxes[this.next]?.from ?? end) < end; this.next++) open.push(boxes[this.next] as Indexed)
    let y = this.least + STEP
    let left = 0
    for (const box of open) {
      if (box.to === end) y = Math.max(y, this.heightAt(box.words) + box.room)
      else open[left++] = box
    }
    open.length = left
    heights.push(y)
    this.least = y
    this.cut = left
    let used = y
    // Words that begin at the break or later stand on the next page only.
    for (const { words, room } of open)
      if (words < end) used = Math.max(used, this.heightAt(words) + room + TAIL)
    return used
  }

  private heightAt(moment: number): number {
    return this.heights[moment > this.first ? moment - this.first : 0] as number
  }
}

/** By moment: the first box that begins there or later, and the boxes that are open over it. */
interface Lookup {
  readonly next: readonly number[]
  readonly open: readonly (readonly Indexed[])[]
}
const lookups = new WeakMap<readonly Indexed[], Lookup>()

/** Finds boxes by moment; made once for a list. */
function lookupOf(boxes: readonly Indexed[]): Lookup {
  const known = lookups.get(boxes)
  if (known) return known
  const last = boxes.reduce((most, { to }) => Math.max(most, to), 0)
  const next: number[] = []
  const open: Indexed[][] = []
  let at = 0
  let now: Indexed[] = []
  for (let moment = 0; moment <= last; moment++) {
    now = now.filter(({ to }) => to > moment)
    open.push(now)
    next.push(at)
    const begun: Indexed[] = []
    for (; boxes[at]?.from === moment; at++) begun.push(boxes[at] as Indexed)
    if (begun.length > 0) now = [...now, ...begun]
  }
  const made = { next, open }
  lookups.set(boxes, made)
  return made
}
