import type { TimeMap } from './packed.js'
import type { SheetBox } from './sheetBoxes.js'

/** Pages on which the same height is the same time; those on which nothing is are left out. @param perPage - Frames of a page */
export function scalePages(boxes: readonly SheetBox[], height: number, perPage: number): TimeMap[] {
  const last = boxes.reduce((most, { to }) => Math.max(most, to), 0)
  const pages: TimeMap[] = []
  for (let from = 0; from < last; from += perPage) {
    const to = from + perPage
    if (boxes.some((box) => box.from < to && box.to > from))
      pages.push({ from, to, frames: [from, to], heights: [0, height] })
  }
  return pages
}

/** Height of a moment on a page; of one before or after it, that of its edge. */
export function heightAt({ frames, heights }: TimeMap, frame: number): number {
  let [low, high] = [0, frames.length - 1]
  if (frame <= (frames[low] as number)) return heights[low] as number
  if (frame >= (frames[high] as number)) return heights[high] as number
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if ((frames[middle] as number) <= frame) low = middle
    else high = middle
  }
  const [f0, f1] = [frames[low] as number, frames[high] as number]
  const [h0, h1] = [heights[low] as number, heights[high] as number]
  return h0 + ((h1 - h0) * (frame - f0)) / (f1 - f0)
}
