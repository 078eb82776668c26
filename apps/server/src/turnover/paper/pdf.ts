import type { DrawnText } from '@yodel/core'
import PDFDocument from 'pdfkit'
import type { Fonts } from './fonts.js'

/** A PDF in which text and lines are put at their places, points from the upper left corner. */
export interface Pdf {
  readonly page: PDFKit.PDFDocument
  text(text: DrawnText): void
  line(from: readonly [number, number], to: readonly [number, number], width: number, ink?: string): void
  /** Ends it. @returns its bytes */
  end(): Promise<Buffer>
}

/** Begins a PDF. @param size - Width and height in points */
export function newPdf(fonts: Fonts, title: string, size: readonly [number, number]): Pdf {
  const info = { Title: title, Creator: 'Yodel' }
  const page = new PDFDocument({ size: [...size], margin: 0, bufferPages: true, info })
  const done = new Promise<Buffer>((resolve, reject) => {
    const pieces: Buffer[] = []
    page.on('data', (piece: Buffer) => pieces.push(piece))
    page.on('end', () => resolve(Buffer.concat(pieces)))
    page.on('error', reject)
  })
  for (const [name, bytes] of fonts.bytes) page.registerFont(name, bytes)
  return {
    page,
    text({ text, x, y, face, size: height }) {
      let at = x
      for (const run of fonts.runs(text, face)) {
        page.font(run.font).fontSize(height).fillColor('black')
        page.text(run.text, at, y, { lineBreak: false, baseline: 'alphabetic' })
        at += page.widthOfString(run.text)
      }
    },
    line([x1, y1], [x2, y2], width, ink = 'black') {
      page.moveTo(x1, y1).lineTo(x2, y2).lineWidth(width).strokeColor(ink).stroke()
    },
    end() {
      page.end()
      return done
    },
  }
}
