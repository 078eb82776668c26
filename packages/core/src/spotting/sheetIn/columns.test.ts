import { describe, expect, it } from 'vitest'
import { HEAD_LINES } from '../../test/headLines.js'
import { matchColumns } from './columns.js'

/** How many of the things a head line says are found: in, out or length, and words. */
function foundIn(lines: typeof HEAD_LINES): { part: number; missed: string[] } {
  const missed: string[] = []
  for (const [headings, begin, end, words] of lines) {
    const match = matchColumns(headings.split('|'))
    const right = [match['in'] === begin, (match['out'] ?? match['length']) === end, match['words'] === words]
    if (right.includes(false)) missed.push(`${headings}: ${JSON.stringify(match)}`)
  }
  return { part: 1 - missed.length / lines.length, missed }
}

describe('the columns of a sheet by its head line', () => {
  it('are found in the half that the matcher was written with', () => {
    const { part, missed } = foundIn(HEAD_LINES.filter((_, index) => index % 2 === 0))
    expect(part, missed.join('\n')).toBeGreaterThanOrEqual(0.9)
  })

  it('are found in at least nine of ten of those that were held back', () => {
    const { part, missed } = foundIn(HEAD_LINES.filter((_, index) => index % 2 === 1))
    expect(part, missed.join('\n')).toBeGreaterThanOrEqual(0.9)
  })
})
