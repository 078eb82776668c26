import type { ImportProblem } from '@yodel/core'

/** Characters that nobody types: controls but tab and line ends; in workbooks also written out, `_x0000_` (ECMA-376 part 1, 22.9.2.19; from memory). */
// eslint-disable-next-line no-control-regex
const CONTROLS = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]|_x00(?:0[0-8bce]|1[0-9a-f]|7f)_/gi

/** Takes control characters out of cells. @returns the cells, and where some were */
export function cleanCells(
  rows: readonly (readonly string[])[],
  lineOf: (row: number) => number,
): { rows: string[][]; problems: ImportProblem[] } {
  const problems: ImportProblem[] = []
  const clean = rows.map((row, index) => {
    let found = 0
    const cells = row.map((cell) => cell.replace(CONTROLS, () => (found++, '')))
    if (found > 0)
      problems.push({
        ...{ line: lineOf(index), severity: 'warning' },
        message: `${found} control ${found === 1 ? 'character' : 'characters'} taken out`,
      })
    return cells
  })
  return { rows: clean, problems }
}
