import {
  layoutCueSheet,
  reelOf,
  type DrawnBox,
  type DrawnPage,
  type DrawnSheet,
  type DrawnText,
  type ReelDocument,
  type SheetPaper,
} from '@yodel/core'
import { Fonts } from './fonts.js'
import { newPdf, type Pdf } from './pdf.js'

/** Half the width of a cut's bar and of a fade's wedge, points. */
const MARK = 4.5
const HAIR = 0.5
const NO_SOUND = 'No sound is placed in this reel.'

/** The mix cue sheet of a reel as it is drawn. */
export async function drawMixSheet(
  doc: ReelDocument,
  options: { readonly paper: SheetPaper; readonly date: string },
): Promise<DrawnSheet> {
  return layoutCueSheet(doc, options.paper, (await Fonts.load()).measure, options.date)
}

/** The mix cue sheet of a reel as a PDF: black on white, everything in it lines and letters. */
export async function mixSheetPdf(
  doc: ReelDocument,
  options: { readonly paper: SheetPaper; readonly date: string },
): Promise<Buffer> {
  const fonts = await Fonts.load()
  const sheet = layoutCueSheet(doc, options.paper, fonts.measure, options.date)
  const reel = reelOf(doc)
  const pdf = newPdf(fonts, `${reel.show}, ${reel.name}: mix cue sheet`, [sheet.width, sheet.height])
  for (const [index, page] of sheet.pages.entries()) {
    if (index > 0) pdf.page.addPage()
    drawPage(pdf, sheet, page)
  }
  if (sheet.pages.length === 0)
    pdf.text({ text: NO_SOUND, x: sheet.left, y: sheet.headTop, face: 'plain', size: 10 })
  return pdf.end()
}

function drawPage(pdf: Pdf, sheet: DrawnSheet, page: DrawnPage): void {
  const { left, right, headTop, bodyTop, bodyBottom } = sheet
  const all = (texts: readonly DrawnText[]): void => texts.forEach((text) => pdf.text(text))
  all([...page.head, ...page.foot, ...page.ruler])
  pdf.line([left, headTop], [right, headTop], 1.2)
  pdf.line([left, bodyTop], [right, bodyTop], 0.8)
  for (const column of page.columns) {
    pdf.line([column.x, headTop], [column.x, bodyBottom], HAIR, '#888')
    all(column.name)
  }
  for (const cue of page.cues) {
    pdf.line([left, cue.y], [(page.columns[0]?.x ?? right) - 6, cue.y], HAIR, '#888')
    all(cue.text)
  }
  for (const box of page.boxes) {
    drawBox(pdf, box)
    all(box.text)
  }
}

/** The line of a sound: a bar where it is cut, a wedge as long as its fade, an arrow where it goes over the page. */
function drawBox(pdf: Pdf, { x, top, bottom, fadeIn, fadeOut, fromAbove, toBelow }: DrawnBox): void {
  pdf.line([x, top], [x, bottom], 0.9)
  const bar = (y: number): void => pdf.line([x - MARK, y], [x + MARK, y], 1.6)
  const wedge = (tip: number, length: number): void => {
    pdf.line([x, tip], [x - MARK, tip + length], 0.9)
    pdf.line([x, tip], [x + MARK, tip + length], 0.9)
  }
  const arrow = (y: number, way: 1 | -1): void => {
    pdf.line([x, y], [x - 2.5, y - 4 * way], HAIR)
    pdf.line([x, y], [x + 2.5, y - 4 * way], HAIR)
  }
  if (fromAbove) arrow(top, -1)
  else if (fadeIn > 0) wedge(top, fadeIn)
  else bar(top)
  if (toBelow) arrow(bottom, 1)
  else if (fadeOut > 0) wedge(bottom, -fadeOut)
  else bar(bottom)
}
