import {
  CATEGORY_NAMES,
  currentCut,
  FRAME_RATES,
  formatTimecode,
  pictureFrameAt,
  reelOf,
  listedCues,
  STATE_NAMES,
  STRIP_SHEET,
  type Category,
  type Cue,
  type CueState,
  type Face,
  type FrameRateId,
  type ListGroup,
  type Picture,
  type ReelDocument,
} from '@yodel/core'
import { columnsOf, type Column } from './cueColumns.js'
import { cutText } from './cutText.js'
import { Fonts, type FontName } from './fonts.js'
import { newPdf } from './pdf.js'

/** Where thumbnails come from: the picture and its sheets of a hundred frames each. */
export interface PdfPicture {
  readonly picture: Pick<Picture, 'rate' | 'frames'>
  /** Path of a sheet of the strip up to its number, counted from 1; it ends in .jpg. */
  readonly sheets: string
}

/** What the head of each page says. */
export interface PdfOptions {
  readonly date: string
  /** Thumbnails beside the cues; none when null. */
  readonly thumbnails: PdfPicture | null
  /** What the cues stand together by; null for time alone. */
  readonly group: ListGroup | null
}

const PAGE = { width: 841.89, height: 595.28, margin: 36 } as const
const THUMB = { width: 64, height: 36 } as const
const SIZE = 9
/** The heading of a group, and how much of what follows stands on the same page at least. */
const GROUP = { height: 22, below: 48 } as const

/** The spotting sheet as a PDF for the stage: A4 landscape, black on white, each page with its head and number. */
export async function cuePdf(doc: ReelDocument, options: PdfOptions): Promise<Buffer> {
  const fonts = await Fonts.load()
  const reel = reelOf(doc)
  const pdf = newPdf(fonts, `${reel.show}, ${reel.name}: spotting sheet`, [PAGE.width, PAGE.height])
  new Setter(pdf.page, doc, options, (wanted, text) => fonts.fontFor(text, wanted)).setAll()
  return pdf.end()
}

/** Points below a row, with its line. */
const ROW_GAP = 7
/** Size of what stands below in a cell. */
const SMALL = 7.5

/** What of a cue stands in a column. */
interface Cell {
  readonly column: Column
  readonly text: string
  readonly below: string
}

/** Sets one document: knows where on the page it is. */
class Setter {
  private y = 0
  /** Where the rows of a page begin. */
  private top = 0
  private readonly columns: readonly Column[]
  private readonly left: number

  constructor(
    private readonly pdf: PDFKit.PDFDocument,
    private readonly doc: ReelDocument,
    private readonly options: PdfOptions,
    private readonly fontFor: (wanted: Face, text: string) => FontName,
  ) {
    this.left = PAGE.margin + (options.thumbnails ? THUMB.width + 10 : 0)
    this.columns = columnsOf(doc, PAGE.width - PAGE.margin - this.left)
  }

  setAll(): void {
    this.head()
    for (const { heading, cues } of listedCues(this.doc, { columns: null, group: this.options.group })) {
      if (this.options.group !== null) this.groupHead(heading)
      for (const cue of cues) this.row(cue)
    }
    if (this.doc.cue.size === 0) this.text('No cue yet.', PAGE.margin, this.y + 8, 300, 'plain')
    const { start, count } = this.pdf.bufferedPageRange()
    for (let page = start; page < start + count; page++) {
      this.pdf.switchToPage(page)
      this.pdf.page.margins.bottom = 0
      this.text(`${page + 1} of ${count}`, PAGE.width - PAGE.margin - 60, PAGE.height - 26, 60, 'figures', {
        align: 'right',
      })
    }
  }

  private head(): void {
    const { pdf } = this
    const reel = reelOf(this.doc)
    const rate = FRAME_RATES[reel.rate]
    this.text(`${reel.show}, ${reel.name}`, PAGE.margin, PAGE.margin, 480, 'bold', { size: 13 })
    const facts = [
      reel.company,
      currentCut(this.doc)?.name,
      rate.label,
      `${formatTimecode(reel.firstFrame + reel.programme, rate)} to ${formatTimecode(reel.firstFrame + reel.length, rate)}`,
      `${this.doc.cue.size} cues`,
      this.options.date,
    ]
    this.text(
      facts.filter(Boolean).join('   '),
      PAGE.margin,
      PAGE.margin + 18,
      PAGE.width - 2 * PAGE.margin,
      'plain',
      { size: 8 },
    )
    this.y = PAGE.margin + 36
    let x = this.left
    for (const column of this.columns) {
      this.text(column.title, x, this.y, column.width - 6, 'bold', { size: 7.5 })
      x += column.width
    }
    this.y += 12
    pdf
      .moveTo(PAGE.margin, this.y)
      .lineTo(PAGE.width - PAGE.margin, this.y)
      .lineWidth(1)
      .strokeColor('black')
      .stroke()
    this.y += 3
    this.top = this.y
  }

  /** The heading of a group, on the page of its first cue. */
  private groupHead(heading: string): void {
    if (this.y + GROUP.height + GROUP.below > PAGE.height - PAGE.margin) {
      this.pdf.addPage()
      this.head()
    }
    const named = CATEGORY_NAMES[heading as Category] ?? STATE_NAMES[heading as CueState] ?? heading
    this.text(named || 'Not said', PAGE.margin, this.y + 6, 400, 'bold', { size: 10 })
    this.y += GROUP.height
  }

  private row(cue: Cue): void {
    const cells = this.columns.map((column) => ({
      column,
      text: column.text(cue),
      below: column.below?.(cue) ?? '',
    }))
    const bottom = PAGE.height - PAGE.margin - 8
    const tall = this.heightOf(cells)
    if (this.y + tall > bottom && this.y > this.top) {
      this.pdf.addPage()
      this.head()
    }
    if (this.options.thumbnails) this.thumbnail(cue, this.options.thumbnails)
    // A row that is taller than a page goes on under the head of the next.
    for (let rest: readonly Cell[] = cells; ;) {
      const most = bottom - this.y - ROW_GAP
      const parts = rest.map((cell) => this.cut(cell, most))
      const here = parts.map(([part]) => part)
      this.cells(cue, here)
      rest = parts.map(([, part]) => part)
      if (rest.every(({ text, below }) => text === '' && below === '')) break
      this.pdf.addPage()
      this.head()
    }
  }

  private cells(cue: Cue, cells: readonly Cell[]): void {
    const { pdf } = this
    let x = this.left
    for (const { column, text, below } of cells) {
      const width = column.width - 6
      const strike = cue.state === 'omitted' && column.title === 'What is heard'
      this.text(text, x, this.y, width, column.font, { strike })
      const under = this.y + (text === '' ? 0 : this.measure(text, width, column.font, SIZE) + 1)
      this.text(below, x, under, width, 'plain', { size: SMALL })
      x += column.width
    }
    this.y += this.heightOf(cells)
    pdf
      .moveTo(PAGE.margin, this.y - 3)
      .lineTo(PAGE.width - PAGE.margin, this.y - 3)
      .lineWidth(0.4)
      .strokeColor('#888')
      .stroke()
  }

  private heightOf(cells: readonly Cell[]): number {
    const heights = cells.map(
      ({ column, text, below }) =>
        this.measure(text, column.width - 6, column.font, SIZE) +
        (below ? this.measure(below, column.width - 6, 'plain', SMALL) + 1 : 0),
    )
    return Math.max(this.options.thumbnails ? THUMB.height : 0, ...heights) + ROW_GAP
  }

  /** What of a cell fits into a height, and what is left of it. */
  private cut({ column, text, below }: Cell, most: number): [here: Cell, rest: Cell] {
    const width = column.width - 6
    const [here, rest] = cutText(text, (part) => this.measure(part, width, column.font, SIZE) <= most)
    const left = most - this.measure(here, width, column.font, SIZE) - 1
    // What stands below comes after all that stands above it.
    const hasRoom = rest === '' && left > SMALL * 1.5
    const [under, after] = hasRoom
      ? cutText(below, (part) => this.measure(part, width, 'plain', SMALL) <= left)
      : ['', below]
    return [
      { column, text: here, below: under },
      { column, text: rest, below: after },
    ]
  }

  private thumbnail(cue: Cue, { picture, sheets }: PdfPicture): void {
    const reel = reelOf(this.doc)
    const frame = pictureFrameAt(
      cue.sync - (currentCut(this.doc)?.offset ?? 0),
      FRAME_RATES[reel.rate],
      FRAME_RATES[picture.rate as FrameRateId],
    )
    if (frame < 0 || frame >= picture.frames) return
    const index = frame % STRIP_SHEET
    const { pdf } = this
    pdf.save().rect(PAGE.margin, this.y, THUMB.width, THUMB.height).clip()
    pdf.image(
      `${sheets}${Math.floor(frame / STRIP_SHEET) + 1}.jpg`,
      PAGE.margin - (index % 10) * THUMB.width,
      this.y - Math.floor(index / 10) * THUMB.height,
      {
        width: 10 * THUMB.width,
        height: 10 * THUMB.height,
      },
    )
    pdf.restore()
  }

  private measure(text: string, width: number, font: Face, size: number): number {
    return text === ''
      ? 0
      : this.pdf.font(this.fontFor(font, text)).fontSize(size).heightOfString(text, { width })
  }

  private text(
    text: string,
    x: number,
    y: number,
    width: number,
    font: Face,
    style: { size?: number; align?: 'right'; strike?: boolean } = {},
  ): void {
    const { size = SIZE, align = 'left', strike = false } = style
    if (text !== '')
      this.pdf
        .font(this.fontFor(font, text))
        .fontSize(size)
        .fillColor('black')
        .text(text, x, y, { width, align, strike })
  }
}
