import { existsSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import type { Face, Measure } from '@yodel/core'
import * as fontkit from 'fontkit'

const require = createRequire(import.meta.url)
const hyperlegible = '@fontsource/atkinson-hyperlegible'
const FACES = {
  plain: `${hyperlegible}-next/files/atkinson-hyperlegible-next-latin-400-normal.woff`,
  bold: `${hyperlegible}-next/files/atkinson-hyperlegible-next-latin-700-normal.woff`,
  figures: `${hyperlegible}-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff`,
  // Letters that the first three don't have: Greek, Cyrillic, Arabic, Hebrew, Latin with rarer marks.
  wide: 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf',
} as const
/** Where Debian's package fonts-droid-fallback puts Chinese, Japanese and Korean letters. */
const EAST_ASIAN = '/usr/share/fonts/truetype/droid/DroidSansFallbackFull.ttf'

/** A font of paper by its name in the document. */
export type FontName = keyof typeof FACES | 'eastAsian'

/** A stretch of text that one font can set. */
export interface Run {
  readonly font: FontName
  readonly text: string
}

/** The fonts that paper is set in; only the letters in use go into the file. */
export class Fonts {
  private readonly advances = new Map<string, Map<number, number>>()
  /** Widths of texts at size 1: the words of a reel come again and again. */
  private readonly widths: Record<Face, Map<string, number>> = {
    ...{ plain: new Map(), bold: new Map(), figures: new Map() },
  }

  private constructor(
    readonly bytes: ReadonlyMap<FontName, Buffer>,
    private readonly fonts: ReadonlyMap<FontName, fontkit.Font>,
  ) {}

  /** Loads them from the packages in which they come; the East Asian one only where the system has it. */
  static async load(): Promise<Fonts> {
    const files = Object.entries(FACES).map(
      ([name, file]) => [name as FontName, require.resolve(file)] as const,
    )
    if (existsSync(EAST_ASIAN)) files.push(['eastAsian', EAST_ASIAN])
    const bytes = new Map(
      await Promise.all(files.map(async ([name, file]) => [name, await readFile(file)] as const)),
    )
    const fonts = new Map(
      [...bytes].map(([name, font]) => [name, fontkit.create(font) as fontkit.Font] as const),
    )
    return new Fonts(bytes, fonts)
  }

  /** Cuts a text into stretches, each in the first font that has its letters: the face itself, then those for other scripts. */
  runs(text: string, face: Face): Run[] {
    const runs: { font: FontName; text: string }[] = []
    for (const letter of text) {
      const last = runs.at(-1)
      const font = this.fontOf(letter, face)
      // A blank goes with what stands before it, whatever font that is.
      if (last && (last.font === font || letter === ' ')) last.text += letter
      else runs.push({ font, text: letter })
    }
    return runs
  }

  /** The one font for a text as a whole: the first that has most of its letters. */
  fontFor(text: string, face: Face): FontName {
    const counts = new Map<FontName, number>()
    for (const letter of text) {
      if (letter === '\n') continue
      const font = this.fontOf(letter, face)
      counts.set(font, (counts.get(font) ?? 0) + 1)
    }
    const other = [...counts].filter(([font]) => font !== face).sort((a, b) => b[1] - a[1])[0]
    return other?.[0] ?? face
  }

  /** Width of a text, letter by letter. */
  readonly measure: Measure = (text, face, size) => {
    const known = this.widths[face].get(text)
    if (known !== undefined) return known * size
    let sum = 0
    for (const letter of text) sum += this.advance(letter, face)
    this.widths[face].set(text, sum)
    return sum * size
  }

  private fontOf(letter: string, face: Face): FontName {
    const point = letter.codePointAt(0) ?? 32
    for (const name of [face, 'wide', 'eastAsian'] as const)
      if (this.fonts.get(name)?.hasGlyphForCodePoint(point)) return name
    return face
  }

  /** Width of a letter as a part of the size it is set in. */
  private advance(letter: string, face: Face): number {
    const known = this.advances.get(face) ?? new Map<number, number>()
    this.advances.set(face, known)
    const point = letter.codePointAt(0) ?? 32
    const before = known.get(point)
    if (before !== undefined) return before
    const font = this.fonts.get(this.fontOf(letter, face)) as fontkit.Font
    const width = font.glyphForCodePoint(point).advanceWidth / font.unitsPerEm
    known.set(point, width)
    return width
  }
}
