const SANS = "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif"
const ELLIPSIS = '…'

let context: CanvasRenderingContext2D | null = null
const widths = new Map<string, Map<string, number>>()

/** Begins to measure. What was measured before a font was there is measured anew. */
function startMeasuring(): CanvasRenderingContext2D | null {
  document.fonts?.addEventListener('loadingdone', () => widths.clear())
  return document.createElement('canvas').getContext('2d')
}

/** Width of a text in pixels, character by character, so that few of them ever have to be measured. @param font - Weight and size, such as `600 11px`. */
export function widthOf(text: string, font: string): number {
  const known = widths.get(font) ?? new Map<string, number>()
  widths.set(font, known)
  let sum = 0
  for (const character of text) {
    let width = known.get(character)
    if (width === undefined) {
      context ??= startMeasuring()
      if (context) context.font = `${font} ${SANS}`
      width = context?.measureText(character).width ?? 0
      known.set(character, width)
    }
    sum += width
  }
  return sum
}

/**
 * Breaks a text into lines that fit, the last of them with an ellipsis where something had to be left out.
 * Hundreds of texts on the Sheet are cut so: one that the browser has to clip costs it a node of its own in what it paints at each refresh.
 *
 * @param font - Weight and size, such as `600 11px`.
 * @param width - Pixels of a line.
 * @param lines - Most lines, at least 1.
 * @param measure - Width of a text in a font.
 * @returns The text with line breaks, for `white-space: pre`.
 */
export function fitText(text: string, font: string, width: number, lines = 1, measure = widthOf): string {
  const done: string[] = []
  const words = text.split(/(?<=[\s/-])/)
  let line = ''
  for (const [index, word] of words.entries()) {
    if (line !== '' && measure((line + word).trimEnd(), font) > width) {
      // The last line takes as much of the rest as goes on it.
      if (done.length === lines - 1)
        return [...done, cutTo(line + words.slice(index).join(''), font, width, measure)].join('\n')
      done.push(cutTo(line.trimEnd(), font, width, measure))
      line = ''
    }
    line += word
  }
  return [...done, cutTo(line.trimEnd(), font, width, measure)].join('\n')
}

/** A number at the end says which of several takes it is: it is kept before anything else. */
const NUMBER = /[\s,]+\d+$/
/** So many characters of a name stand before what is left out, or its number is not kept. */
const FEWEST = 4

function cutTo(line: string, font: string, width: number, measure: typeof widthOf): string {
  if (measure(line, font) <= width) return line
  const [number = ''] = NUMBER.exec(line) ?? []
  const start = number === '' ? '' : shortened(line.slice(0, -number.length), number, font, width, measure)
  return start.length >= FEWEST
    ? start + ELLIPSIS + number.replace(',', '')
    : shortened(line, '', font, width, measure) + ELLIPSIS
}

/** As much of the beginning of a text as leaves room for an ellipsis and its end; at least a character. */
function shortened(text: string, end: string, font: string, width: number, measure: typeof widthOf): string {
  // By characters as they are seen: half a pair must not be left.
  const characters = [...text]
  while (characters.length > 1 && measure(characters.join('') + ELLIPSIS + end, font) > width)
    characters.pop()
  return characters.join('').trimEnd()
}
