import { Choice } from '../../ui/Choice.js'
import { CUE_FIELDS, type ColumnMatch, type SheetTable } from '@yodel/core'

/** What a column can be: whatever can be typed, and the length, which sets the out. */
const FIELDS = CUE_FIELDS.filter(({ key, read }) => read !== null || key === 'length')

/** Which column of the file is which: guessed from its headings, to be set right here. */
export function ColumnMatcher({
  table,
  match,
  onMatch,
}: {
  table: SheetTable
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
      {columnsOf(table).map((heading, column) => (
        <li key={column} className="grid grid-cols-[1fr_130px] items-center gap-2 text-[12px]">
          <span className="min-w-0">
            <b className="block truncate font-semibold">{heading || `Column ${column + 1}`}</b>
            <span className="block truncate text-[11px] text-ink-3">{exampleOf(table, column)}</span>
          </span>
          <Choice
            label={`${heading || `Column ${column + 1}`} is`}
            value={fieldOf(column)}
            options={[['', 'left out'] as const, ...FIELDS.map(({ key, title }) => [key, title] as const)]}
            onChange={(key) => set(column, key)}
            className="h-7"
          />
        </li>
      ))}
    </ul>
  )
}

/** A heading for each column; empty where the file has none. */
function columnsOf({ headings, rows }: SheetTable): string[] {
  const columns = rows.reduce((most, row) => Math.max(most, row.length), headings.length)
  return Array.from({ length: columns }, (_, column) => headings[column] ?? '')
}

/** What stands in a column, by the first line that is more than a title. */
const exampleOf = ({ rows }: SheetTable, column: number): string =>
  rows.find(
    (row) => (row[column] ?? '').trim() !== '' && row.filter((cell) => cell.trim() !== '').length > 1,
  )?.[column] ?? 'empty'
