import { FRAME_RATES, formatTimecode, reelOf, type ReelDocument, type SinceLine } from '@yodel/core'
import { Flow } from './Flow.js'
import { Fonts } from './fonts.js'
import { newPdf } from './pdf.js'

/** What the head of change notes says. */
export interface SinceFacts {
  readonly turnover: string
  readonly date: string
  readonly lines: readonly SinceLine[]
}

const WIDTHS = [0.14, 0.09, 0.35, 0.42] as const
const KINDS = { come: 'New', gone: 'Gone', moved: 'Moved', swapped: 'Swapped', changed: 'Changed' } as const

/** Change notes for the stage: what has changed since a turnover, by time, as a PDF. */
export async function sincePdf(doc: ReelDocument, { turnover, date, lines }: SinceFacts): Promise<Buffer> {
  const fonts = await Fonts.load()
  const reel = reelOf(doc)
  const rate = FRAME_RATES[reel.rate]
  const pdf = newPdf(fonts, `${reel.show}, ${reel.name}: changes since ${turnover}`, [595.28, 841.89])
  const flow = new Flow(pdf, fonts, 595.28, 841.89)
  flow.heading(`Changes since ${turnover}`, 15)
  flow.row([`${reel.show}, ${reel.name}, ${rate.label}, ${date}`], [1], 'plain')
  if (lines.length === 0) flow.row(['Nothing has changed.'], [1], 'plain')
  else flow.row(['At', '', 'What', 'Change'], WIDTHS, 'bold', true)
  for (const { at, kind, name, text } of lines) {
    const timecode = at ? formatTimecode(reel.firstFrame + Math.max(0, at.from), rate) : ''
    flow.row([timecode, KINDS[kind], name, text], WIDTHS, 'plain', true)
  }
  flow.number()
  return pdf.end()
}
