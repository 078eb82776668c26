import { launch } from './support/browser.js'
import { realServer } from './support/server.js'
import { Editor } from './support/Editor.js'
const server = await realServer({ demo: true })
const browser = await launch()
const editor = await Editor.open(browser, server.url, 'demo-reel-1')
const { page } = editor
const TYPED = [
  'The Lamp Room;;;;',
  'Spotting vom 12. Mai;;;;',
  'TC Anfang;Dauer;Geräusch;Art;Bemerkung',
  'FOLEY;;;;',
  '01:00:12:00;00:00:02:00;Schritte, Kies;;zwei Paar Schuhe',
  '01:00:15:00;1:12;Mantel;;',
  'Atmo:;;;;',
  '01:00:10:00;30 s;Wind in Drähten;;',
  '01:00:40:00;;Stimmengewirr;Walla;',
  '01:00:44.12;;Tür;Knall;',
].join('\r\n')
await page.click('nav >> text=List')
await page.click('text=Import …')
await page.setInputFiles('input[type=file]', {
  name: 'spotting.csv',
  mimeType: 'text/csv',
  buffer: Buffer.from(TYPED, 'latin1'),
})
await page.getByRole('button', { name: 'Import 5 cues' }).waitFor()
await page.waitForTimeout(300)
await page.screenshot({ path: '/tmp/look/i1.png' })
await browser.close()
await server.close()
