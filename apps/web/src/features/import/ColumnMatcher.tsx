import { CUE_FIELDS, type ColumnMatch, type IncomingSheet } from '@yodel/core'

/** Which column of the file is which: guessed from its headings, to be set right here. */
export function ColumnMatcher({
  sheet,
  match,
  onMatch,
}: {
  sheet: IncomingSheet
  match: ColumnMatch
  onMatch: (match: ColumnMatch) => void
}) {
  const fieldOf = (column: number): string => Object.entries(match).find(([, at]) => at === column)?.[0] ?? ''
  const set = (column: number, key: string): void => {
    const others = Object.entries(match).filter(([other, at]) => at !== column && other !== key)
    onMatch(Object.fromEntries(key === '' ? others : [...others, [key, column]]))
  }
  return (
    <ul className="mt-2 flex flex-col gap-1.5">
      {sheet.headings.map((heading, column) => (
        <li key={column} className="grid grid-cols-[1fr_130px] items-center gap-2 text-[12px]">
          <span className="min-w-0">
            <b className="block truncate font-semibold">{heading || `Column ${column + 1}`}</b>
            <span className="block truncate text-[11px] text-ink-3">
              {sheet.rows.find((row) => (row[column] ?? '').trim() !== '')?.[column] ?? 'empty'}
            </span>
          </span>
          <select
            aria-label={`${heading || `Column ${column + 1}`} is`}
            value={fieldOf(column)}
            onChange={(event) => set(column, event.target.value)}
            className="h-7 rounded-[3px] border border-line bg-paper"
          >
            <option value="">left out</option>
            {CUE_FIELDS.filter((field) => field.read).map((field) => (
              <option key={field.key} value={field.key}>
                {field.title}
              </option>
            ))}
          </select>
        </li>
      ))}
    </ul>
  )
}
