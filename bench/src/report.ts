/** One measured claim. `ratio` above 1 means better than the peer. */
export interface Measure {
  readonly name: string
  readonly value: number
  readonly unit: string
  readonly peer?: string
  readonly ratio?: number
}

/** Prints a measure as one line of JSON. */
export function report(measure: Measure): void {
  const round = (value: number): number => Number(value.toPrecision(5))
  console.log(
    JSON.stringify({
      ...measure,
      value: round(measure.value),
      ...(measure.ratio === undefined ? {} : { ratio: round(measure.ratio) }),
    }),
  )
}

/** The value below which a part of the values lies. @param part - 0 to 1. */
export function percentile(values: readonly number[], part: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))] ?? NaN
}
