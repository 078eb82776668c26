import type { Face } from '@yodel/core'
import { cutText } from './cutText.js'
import type { Fonts } from './fonts.js'
import type { Pdf } from './pdf.js'

const MARGIN = 40
const SIZE = 8.5
const LEAD = 1.3
const GAP = 4

/** Sets rows below each other, over as many pages as they need. */
export class Flow {
  private y = MARGIN

  constructor(
    private readonly pdf: Pdf,
    private readonly fonts: Fonts,
    private readonly width: number,
    private readonly height: number,
  ) {}

  heading(text: string, size: number): void {
    const tall = this.heightOf(text, this.width - 2 * MARGIN, 'bold', size)
    // A heading is never left alone at the foot of a page.
    this.room(tall + 3 * SIZE * LEAD + 10)
    if (this.y > MARGIN) this.y += 10
    this.set(text, MARGIN, this.width - 2 * MARGIN, 'bold', size)
    this.y += tall + 3
  }

  row(cells: readonly string[], widths: readonly number[], face: Face, ruled = false): void {
    const full = this.width - 2 * MARGIN
    const most = this.height - 2 * MARGIN - 3
    const fitting = cells.map((cell, index) =>
      cutText(cell, (part) => this.heightOf(part, full * (widths[index] ?? 0) - GAP, face, SIZE) <= most),
    )
    const here = fitting.map(([part]) => part)
    const rest = fitting.map(([, part]) => part)
    const tall = Math.max(
      SIZE * LEAD,
      ...here.map((cell, index) => this.heightOf(cell, full * (widths[index] ?? 0) - GAP, face, SIZE)),
    )
    this.room(tall + 3)
    let x = MARGIN
    for (const [index, cell] of here.entries()) {
      const width = full * (widths[index] ?? 0)
      this.set(cell, x, width - GAP, face, SIZE)
      x += width
    }
    this.y += tall + 2
    // What is taller than a page goes on with the next.
    if (rest.some((cell) => cell !== '')) return this.row(rest, widths, face, ruled)
    if (ruled) this.pdf.line([MARGIN, this.y - 1], [this.width - MARGIN, this.y - 1], 0.3, '#888')
  }

  /** Writes the number of each page at its foot. */
  number(): void {
    const { start, count } = this.pdf.page.bufferedPageRange()
    for (let page = start; page < start + count; page++) {
      this.pdf.page.switchToPage(page)
      const text = `${page + 1} of ${count}`
      const x = this.width - MARGIN - this.fonts.measure(text, 'figures', 8)
      this.pdf.text({ text, x, y: this.height - MARGIN / 2, face: 'figures', size: 8 })
    }
  }

  private room(tall: number): void {
    if (this.y + tall <= this.height - MARGIN) return
    this.pdf.page.addPage()
    this.y = MARGIN
  }

  private heightOf(text: string, width: number, face: Face, size: number): number {
    const font = this.fonts.fontFor(text, face)
    return text === '' ? 0 : this.pdf.page.font(font).fontSize(size).heightOfString(text, { width })
  }

  private set(text: string, x: number, width: number, face: Face, size: number): void {
    if (text === '') return
    this.pdf.page.font(this.fonts.fontFor(text, face)).fontSize(size).fillColor('black')
    this.pdf.page.text(text, x, this.y, { width })
  }
}
