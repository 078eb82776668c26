/** How results are looked at: rows of two densities, or a table with columns of one's own. */
export interface ResultsLook {
  readonly rows: 'full' | 'dense' | 'table'
  /** Keys of the table's columns from left to right, hidden ones too. */
  readonly order: readonly string[]
  readonly hidden: readonly string[]
  /** Widths of columns in pixels, where they are not those of {@link WIDTHS}. */
  readonly widths: Readonly<Record<string, number>>
}

/** Widths of the columns at first, in pixels, in the order in which they stand at first. */
const WIDTHS: Readonly<Record<string, number>> = {
  ...{ name: 230, wave: 120, length: 62, channels: 66, category: 96, events: 56 },
  ...{ weight: 58, brightness: 78, bite: 44, noisiness: 50, pitch: 66, loudness: 88, rating: 62, said: 200 },
  ...{ shelf: 120, licence: 110, source: 110, tags: 110, note: 140, format: 150, path: 240 },
}
const HIDDEN = ['said', 'source', 'tags', 'note', 'format', 'path', 'pitch', 'loudness', 'rating']
const NARROWEST = 34

/** Full rows, and the columns that most searches need. */
export const PLAIN_LOOK: ResultsLook = {
  rows: 'full',
  order: Object.keys(WIDTHS),
  hidden: HIDDEN,
  widths: {},
}

/** Width of a column in pixels. */
export const columnWidth = ({ widths }: Pick<ResultsLook, 'widths'>, key: string): number =>
  Math.max(NARROWEST, widths[key] ?? WIDTHS[key] ?? 100)

/** A look read from the browser's store; columns that were added since then come last. */
export function readLook(text: string | null): ResultsLook {
  try {
    const kept = { ...PLAIN_LOOK, ...(JSON.parse(text ?? '{}') as Partial<ResultsLook>) }
    const known = kept.order.filter((key) => key in WIDTHS)
    return { ...kept, order: [...known, ...PLAIN_LOOK.order.filter((key) => !known.includes(key))] }
  } catch {
    return PLAIN_LOOK
  }
}
