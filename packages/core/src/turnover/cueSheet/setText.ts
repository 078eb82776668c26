import type { DrawnText, Face, Measure } from './drawn.js'

/** Sizes of type in points, and the height of a line as a part of it. */
export const TYPE = { name: 7.5, figures: 6.5, small: 6.5, head: 12, lead: 1.22 } as const

/** A line of a box before it has a place. */
export interface Line {
  readonly text: string
  readonly face: Face
  readonly size: number
}

/** Height of a line in points. */
export const heightOf = (line: Pick<Line, 'size'>): number => line.size * TYPE.lead

/** Height of lines in points. */
export const heightOfAll = (lines: readonly Line[]): number =>
  lines.reduce((sum, { size }) => sum + size * TYPE.lead, 0)

/**
 * Breaks a text into lines no wider than `width` points: between words, inside one that is wider than a line; the last
 * line ends in an ellipsis when more would follow.
 */
export function wrap(
  text: string,
  args: { face: Face; size: number; width: number; most: number },
  measure: Measure,
): Line[] {
  const { face, size, width, most } = args
  const fits = (one: string): boolean => measure(one, face, size) <= width
  const blank = measure(' ', face, size)
  const lines: string[] = []
  let line = ''
  let used = 0
  for (const word of text.split(/\s+/u).filter(Boolean)) {
    const wide = measure(word, face, size)
    if (line !== '' && used + blank + wide <= width) {
      line += ` ${word}`
      used += blank + wide
      continue
    }
    if (line !== '') lines.push(line)
    if (lines.length > most) break
    line = word
    used = wide
    if (wide <= width) continue
    line = ''
    for (const letter of word) {
      if (line !== '' && !fits(line + letter)) {
        lines.push(line)
        line = ''
      }
      line += letter
    }
    used = measure(line, face, size)
  }
  if (line !== '') lines.push(line)
  const kept = lines.slice(0, most)
  if (lines.length > most && most > 0) kept[most - 1] = shortened(kept[most - 1] ?? '', fits)
  return kept.map((one) => ({ text: one, face, size }))
}

/** A text with an ellipsis, as much of it as fits. */
export function shortened(text: string, fits: (text: string) => boolean): string {
  const letters = [...text]
  while (letters.length > 0 && !fits(`${letters.join('').trimEnd()}…`)) letters.pop()
  return `${letters.join('').trimEnd()}…`
}

/** Sets lines below each other. @param top - Upper edge of the first. */
export function setLines(lines: readonly Line[], x: number, top: number): DrawnText[] {
  const drawn: DrawnText[] = []
  let above = top
  for (const { text, face, size } of lines) {
    // The baseline lies almost a size below the line's upper edge, with room for what hangs under it.
    drawn.push({ text, face, size, x, y: above + size * 0.95 })
    above += size * TYPE.lead
  }
  return drawn
}
