import { cuesInOrder } from '@yodel/core'
import { expect, it } from 'vitest'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'

const stage = onDemo()

/** A spreadsheet as it is saved by an office: a title, German headings, sections, lengths, a word of their own. */
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
].join('\r\n')

it('a sheet with a title, sections and lengths comes in by its meaning; an unknown word is asked once and remembered', async () => {
  const editor = await Editor.open(stage.browser, stage.server.url, 'demo-reel-1')
  const { page } = editor
  const before = await editor.document()
  const choose = () =>
    page.setInputFiles('input[type=file]', {
      ...{ name: 'spotting.csv', mimeType: 'text/csv' },
      // As old spreadsheets save it.
      buffer: Buffer.from(TYPED, 'latin1'),
    })
  await page.click('nav >> text=List')
  await page.click('text=Import …')
  await choose()
  await page.getByRole('button', { name: 'Import 4 cues' }).waitFor()
  const headings = page.getByLabel('Which line holds the headings').locator('option:checked')
  expect(await headings.textContent()).toMatch(/^line 3: TC Anfang, Dauer, Geräusch, Art/)
  expect(await page.getByLabel('Dauer is').inputValue()).toBe('length')
  await page.getByText('Which category is meant?').waitFor()
  await page.getByLabel('Category of Walla').selectOption('BG')
  await page.getByText('Which category is meant?').waitFor({ state: 'detached' })
  await page.getByLabel('Seconds of cues without an end').fill('4')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Import 4 cues' }).click()
  await editor.saved()
  const after = await editor.document()
  const came = cuesInOrder(after).filter(({ id }) => !before.cue.has(id))
  // The reel begins eight seconds before the hour.
  expect(came.map((cue) => [cue.category, cue.in, cue.out, cue.words, cue.notes])).toEqual([
    ['BG', 432, 1152, 'Wind in Drähten', ''],
    ['FOL', 480, 528, 'Schritte, Kies', 'zwei Paar Schuhe'],
    ['FOL', 552, 588, 'Mantel', ''],
    ['BG', 1152, 1248, 'Stimmengewirr', ''],
  ])
  // Asked for once only; what the file already gave is said to be there.
  await page.click('text=Import …')
  await choose()
  await page.getByRole('button', { name: 'Import 4 cues' }).waitFor()
  expect(await page.getByText('Which category is meant?').count()).toBe(0)
  await page.getByText('the same as a cue that is there already').first().waitFor()
  await page.click('text=Cancel')
  await editor.press('Control+z')
  await editor.saved()
  expect((await editor.document()).cue.size).toBe(before.cue.size)
})
