import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { tracksInOrder } from '@yodel/core'
import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { launch } from './support/browser.js'
import { Editor } from './support/Editor.js'
import { realServer, type RealServer } from './support/server.js'

const folder = mkdtempSync(path.join(tmpdir(), 'yodel-list-in-'))
let server: RealServer
let browser: Browser
beforeAll(async () => {
  server = await realServer({ demo: true })
  browser = await launch()
})
afterAll(async () => {
  await browser.close()
  await server.close()
  rmSync(folder, { recursive: true })
})

it('brings in a list of placed sounds: what is not found is searched for, a track left out, markers noted; undone in one step', async () => {
  const editor = await Editor.open(browser, server.url, 'demo-reel-1')
  const { page } = editor
  const before = await editor.document()
  const own = await (await fetch(`${server.url}/api/reels/demo-reel-1/clips.edl`)).text()
  const lines = own.replace(/FROM CLIP NAME: [^\r]*/, 'FROM CLIP NAME: Their own bell.wav')
  writeFileSync(path.join(folder, 'their.edl'), `${lines}* LOC: 01:00:12:00 RED  Door again?\r\n`)
  await page.click('nav >> text=List')
  await page.click('text=Import …')
  await page.setInputFiles('input[type=file]', path.join(folder, 'their.edl'))
  const heard = [...before.clip.values()].filter(({ mute }) => !mute)
  await page.getByText('1 sound without a recording: left out.').waitFor()
  // By hand: what it is, by words.
  const missing = page.getByLabel('Recording for Their own bell.wav')
  await missing.fill('bell two pause')
  await page.getByRole('option', { name: /Block bell, two pause one/ }).click()
  await page.getByText('chosen by hand').waitFor()
  await page.getByText('without a recording').waitFor({ state: 'detached' })
  const rain = [...before.track.values()].find(({ name }) => name === 'Rain A')!
  await page.selectOption('[aria-label="Rain A comes in as"]', '')
  await page.selectOption('[aria-label="What markers become"]', 'notes')
  const left = heard.filter(({ trackId }) => trackId === rain.id).length
  await page.getByRole('button', { name: `Lay ${heard.length - left} sounds` }).click()
  await page.getByText(/laid on 7 new tracks/).waitFor()
  const after = await editor.document()
  const laid = [...after.clip.values()].filter(({ id }) => !before.clip.has(id))
  const times = (clips: typeof heard): string[] =>
    clips.map(({ start, length, offset }) => `${start} ${length} ${offset}`).sort()
  const [bell] = laid.filter(({ name }) => name === 'Their own bell.wav')
  expect(times(laid.filter((clip) => clip !== bell))).toEqual(
    times(heard.filter((clip) => clip.trackId !== rain.id && clip.start !== bell?.start)),
  )
  expect([...after.note.values()].filter(({ id }) => !before.note.has(id))).toMatchObject([
    { words: 'Door again?', frame: 480 },
  ])
  expect(
    tracksInOrder(after)
      .slice(before.track.size)
      .every(({ folder: of }) => of === 'their.edl'),
  ).toBe(true)
  // The first of them is selected, and the gate stands there.
  await editor.seesPicture()
  await page.waitForSelector('[data-sheet]')
  await editor.press('Control+z')
  expect(await editor.document()).toMatchObject({ clip: before.clip, track: before.track, note: before.note })
  await editor.reload()
  expect((await editor.document()).clip).toEqual(before.clip)
  // The same file as cues.
  await page.goto(`${server.url}/reels/demo-reel-1/import`)
  await page.setInputFiles('input[type=file]', path.join(folder, 'their.edl'))
  await page.selectOption('[aria-label="What comes in"]', 'cues')
  await page.getByRole('button', { name: 'Import 1 cue' }).waitFor()
  // A list that is cut short is refused with the reason, where it was chosen.
  writeFileSync(path.join(folder, 'half.otio'), '{"OTIO_SCHEMA": "Timeline.1", "tracks":')
  await page.click('text=Another file')
  await page.setInputFiles('input[type=file]', path.join(folder, 'half.otio'))
  expect(await page.getByRole('alert').textContent()).toMatch(/half\.otio.*no JSON/)
  await page.close()
}, 120_000)
