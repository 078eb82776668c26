import { findHead, type IncomingSheet, type SheetHead } from '@yodel/core'
import { useMemo } from 'react'
import { ChoiceRow } from '../../ui/ChoiceRow.js'

/** Rows that are offered as headings. */
const OFFERED = 12

const keyOf = ({ at, rows }: SheetHead): string => `${at}/${rows}`

/** Which line of a file holds its headings: found, and to be chosen where that was wrong. */
export function HeadChoice({
  sheet,
  head,
  onHead,
}: {
  sheet: IncomingSheet
  head: SheetHead
  onHead: (head: SheetHead) => void
}) {
  const lineOf = (row: number): number => sheet.lines?.[row] ?? row + 1
  const found = useMemo(() => findHead(sheet.rows), [sheet])
  const heads: SheetHead[] = [
    ...(found.rows === 2 ? [found] : []),
    ...sheet.rows.slice(0, OFFERED).map((_, at): SheetHead => ({ at, rows: 1 })),
    { at: 0, rows: 0 },
  ]
  const nameOf = ({ at, rows }: SheetHead): string => {
    if (rows === 0) return 'none'
    const cells = (sheet.rows[at] ?? []).filter((cell) => cell.trim() !== '').join(', ')
    const where = rows === 2 ? `lines ${lineOf(at)} and ${lineOf(at + 1)}` : `line ${lineOf(at)}`
    // What Yodel has made of captions and markers stands on no line of the file.
    return lineOf(at) === 0 ? 'as the file says' : `${where}: ${cells.slice(0, 40)}`
  }
  return (
    <ChoiceRow
      name="Headings"
      label="Which line holds the headings"
      value={keyOf(head)}
      options={heads.map((one) => [keyOf(one), nameOf(one)] as const)}
      onChange={(key) => {
        const next = heads.find((one) => keyOf(one) === key)
        if (next) onHead(next)
      }}
    />
  )
}
