/** A stretch of the reel in frames, `[from, to)`. */
export interface Span {
  readonly from: number
  readonly to: number
}

/** Joins spans that touch or overlap; the result is in order and has no empty span. */
export function mergeSpans(spans: readonly Span[]): Span[] {
  const merged: Span[] = []
  for (const span of [...spans].sort((a, b) => a.from - b.from)) {
    if (span.to <= span.from) continue
    const last = merged.at(-1)
    if (last && span.from <= last.to)
      merged[merged.length - 1] = { from: last.from, to: Math.max(last.to, span.to) }
    else merged.push({ from: span.from, to: span.to })
  }
  return merged
}

/** What of `[from, to)` no span covers: the stretches nobody has watched. */
export function gapsBetween(spans: readonly Span[], from: number, to: number): Span[] {
  const gaps: Span[] = []
  let reached = from
  for (const span of mergeSpans(spans)) {
    if (span.from > reached) gaps.push({ from: reached, to: Math.min(span.from, to) })
    reached = Math.max(reached, span.to)
  }
  if (reached < to) gaps.push({ from: reached, to })
  return gaps.filter((gap) => gap.to > gap.from)
}
