import { PAPERS, reelOf, reportSections, type ReelDocument, type ReportFacts } from '@yodel/core'
import { Flow } from './Flow.js'
import { Fonts } from './fonts.js'
import { newPdf } from './pdf.js'

/** The report of a turnover as a PDF: what left, how it measured, what was open, what was accepted and by whom. */
export async function reportPdf(doc: ReelDocument, facts: ReportFacts): Promise<Buffer> {
  const fonts = await Fonts.load()
  const [width, height] = PAPERS[facts.recipe.paper.size]
  const { show, name } = reelOf(doc)
  const pdf = newPdf(fonts, `${show}, ${name}: ${facts.name}`, [width, height])
  const flow = new Flow(pdf, fonts, width, height)
  for (const [index, { title, lines, table }] of reportSections(doc, facts).entries()) {
    flow.heading(title, index === 0 ? 15 : 10.5)
    for (const line of lines) flow.row([line], [1], 'plain')
    for (const [row, cells] of (table?.rows ?? []).entries())
      flow.row(cells, table?.widths ?? [], row === 0 ? 'bold' : 'plain', true)
  }
  flow.number()
  return pdf.end()
}
