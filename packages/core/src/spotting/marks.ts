/** The nearest of sorted positions before (-1) or after (1) a place, or null. */
export function nextMark(marks: readonly number[], from: number, direction: 1 | -1): number | null {
  if (direction > 0) return marks.find((mark) => mark > from) ?? null
  return marks.findLast((mark) => mark < from) ?? null
}

/** The sorted position nearest to a place within reach (inclusive), or null; ties go to the earlier. */
export function nearestMark(marks: readonly number[], to: number, reach: number): number | null {
  let best: number | null = null
  for (const mark of marks) if (Math.abs(mark - to) <= reach && (best === null || Math.abs(mark - to) < Math.abs(best - to))) best = mark
  return best
}
