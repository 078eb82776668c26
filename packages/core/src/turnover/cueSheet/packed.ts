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
  const page = new Growing(boxes, moments)
  const breaks = chooseBreaks(page, moments.length, height)
  return breaks.slice(1).map((end, index) => {
    const first = breaks[index] as number
    page.begin(first)
    let used = 0
    for (let to = first + 1; to <= end; to++) used = page.grow(to)
    return {
      ...{ from: moments[first] as number, to: moments[end] as number },
      frames: moments.slice(first, end + 1),
      // What goes on needs its words on this page: the moment of the break stands below them.
      heights: [...page.heights.subarray(first, end), used],
    }
  })
}

/** The moments at which pages begin, and the last: fewest pages, then fewest cuts. */
function chooseBreaks(page: Growing, moments: number, height: number): number[] {
  const last = moments - 1
  if (last < 1) return []
  // Of the best pages from each moment on: how many, how many boxes they cut, where the first of them ends.
  const pages = new Int32Array(moments).fill(FAR)
  const cuts = new Int32Array(moments).fill(FAR)
  const next = new Int32Array(moments)
  pages[last] = cuts[last] = 0
  for (let first = last - 1; first >= 0; first--) {
    page.begin(first)
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

/** A page that is filled moment by moment; begun anew for every moment that one could begin with, so it keeps its tables. */
class Growing {
  /** Height of each moment on it, by the moment's number. */
  readonly heights: Float64Array
  /** Height that is used whatever follows. */
  least = 0
  /** Boxes that would be cut if it ended where it is. */
  cut = 0
  /** Of each box: the numbers of its moments, and the height that its words need. */
  private readonly to: Int32Array
  private readonly words: Int32Array
  private readonly room: Float64Array
  /** By moment: the first box that begins there or later, and the boxes that are open over it. */
  private readonly beginning: Int32Array
  private readonly over: Int32Array[]
  /** The boxes that are open on the page, and where their words stand. */
  private readonly open: Int32Array
  private readonly named: Int32Array
  private next = 0

  constructor(boxes: readonly SheetBox[], moments: readonly number[]) {
    const at = new Map(moments.map((frame, index) => [frame, index]))
    const numbers = (frame: (box: SheetBox) => number): Int32Array =>
      Int32Array.from(boxes, (box) => at.get(frame(box)) ?? 0)
    const from = numbers((box) => box.from)
    this.to = numbers((box) => box.to)
    this.words = numbers((box) => box.wordsFrom)
    this.room = Float64Array.from(boxes, roomOf)
    this.heights = new Float64Array(moments.length)
    this.beginning = new Int32Array(moments.length + 1).fill(boxes.length)
    this.over = []
    for (let moment = 0, begun = 0, open = new Int32Array(0); moment < moments.length; moment++) {
      open = open.filter((box) => (this.to[box] as number) > moment)
      this.over.push(open)
      this.beginning[moment] = begun
      while (from[begun] === moment) begun++
      const here = begun - (this.beginning[moment] as number)
      if (here > 0)
        open = Int32Array.from([...open, ...Array.from({ length: here }, (_, k) => begun - here + k)])
    }
    this.open = new Int32Array(boxes.length)
    this.named = new Int32Array(boxes.length)
  }

  /** Begins with a moment. What goes on from the page before has its words again, at the top. */
  begin(first: number): void {
    const over = this.over[first] as Int32Array
    this.open.set(over)
    this.named.fill(first, 0, over.length)
    this.cut = over.length
    this.next = this.beginning[first] as number
    this.heights[first] = this.least = 0
  }

  /** Goes on to the next moment. @param end - Its number. @returns the height that the page needs if it ends there */
  grow(end: number): number {
    const { open, named, heights, to, words, room } = this
    let count = this.cut
    for (const begun = this.beginning[end] as number; this.next < begun; this.next++) {
      open[count] = this.next
      named[count++] = words[this.next] as number
    }
    let y = this.least + STEP
    let used = 0
    let left = 0
    for (let k = 0; k < count; k++) {
      const box = open[k] as number
      const name = named[k] as number
      // Words that begin at the break or later stand on the next page only.
      const foot = name < end ? (heights[name] as number) + (room[box] as number) : 0
      if (to[box] === end) {
        if (foot > y) y = foot
        continue
      }
      open[left] = box
      named[left++] = name
      if (foot > used) used = foot
    }
    heights[end] = this.least = y
    this.cut = left
    return Math.max(y, used > 0 ? used + TAIL : 0)
  }
}
