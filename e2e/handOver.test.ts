import { createHash, randomUUID } from 'node:crypto'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { KeptFile, KeptTurnover, ReelState, Shelf, Show, SoundPage } from '@yodel/core'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { bounced } from './support/bounce.js'
import { launch } from './support/browser.js'
import { realServer, type RealServer } from './support/server.js'

// A small reel: two recordings, one of them placed on a cue and one beside any.
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-hand-over-'))
let here: RealServer
let there: RealServer
let browser: Browser
let reel: string

const ask = async <T>(server: RealServer, url: string, body?: object): Promise<T> => {
  const init = { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
  const answer = await fetch(`${server.url}/api${url}`, body ? init : {})
  if (!answer.ok) throw new Error(await answer.text())
  return (await answer.json()) as T
}

beforeAll(async () => {
  for (const [name, hz] of [
    ['lever', 220],
    ['bell', 880],
  ] as const)
    execFileSync('ffmpeg', [
      ...['-v', 'error', '-f', 'lavfi', '-i', `sine=frequency=${hz}:duration=4,volume=0.5`],
      ...['-ar', '48000', path.join(folder, `${name}.wav`)],
    ])
  here = await realServer({ demo: false, roots: folder })
  there = await realServer({ demo: false, roots: '' })
  browser = await launch()
  await ask(here, '/shelves', { path: folder })
  let { sounds } = await ask<SoundPage>(here, '/sounds')
  for (; sounds.length < 2; { sounds } = await ask<SoundPage>(here, '/sounds'))
    await new Promise((resolve) => setTimeout(resolve, 200))
  const facts = { showId: null, showName: 'Halt', name: 'Reel 1', rate: '25', company: '' }
  reel = (
    await ask<{ id: string }>(here, '/reels', { ...facts, firstTimecode: '10:00:00:00', lengthSeconds: 20 })
  ).id
  const clip = (id: string, soundId: string, start: number, cueId: string | null): object => ({
    ...{
      kind: 'clip',
      id,
      trackId: 't',
      soundId,
      cueId,
      name: id,
      start,
      length: 96_000,
      offset: 48_000,
      sync: 48_000,
    },
    ...{
      recorded: 192_000,
      gain: -6,
      fadeIn: 480,
      fadeOut: 480,
      fadeInShape: 's',
      fadeOutShape: 's',
      mute: false,
    },
    ...{ speed: 1, keepPitch: false, reverse: false, sides: 'kept', channels: '', group: '', locked: false },
  })
  const added = [
    {
      ...{ kind: 'track', id: 't', name: 'Levers / "one"', category: 'FX', order: 'a', level: 0, pan: 0 },
      ...{ mute: false, solo: false, ink: 'category', width: 'stereo', folder: '', column: 0 },
    },
    {
      ...{
        kind: 'cue',
        id: 'q',
        category: 'FX',
        number: 1,
        in: 50,
        out: 100,
        sync: 50,
        words: 'Hebel 門',
        source: '',
      },
      ...{
        where: '',
        scene: '',
        onScreen: 'on',
        perspective: 'close',
        notes: '',
        priority: 0,
        by: '',
        state: 'ready',
      },
      omitReason: '',
    },
    clip('lever', sounds[0]!.id, 96_000, 'q'),
    clip('bell', sounds[1]!.id, 480_000, null),
  ]
  const change = { label: 'Place', added, updated: [], removed: [] }
  await ask(here, `/reels/${reel}/changes`, {
    changeId: randomUUID(),
    base: 1,
    role: 'do',
    target: null,
    change,
  })
}, 120_000)
afterAll(async () => {
  await browser?.close()
  await here?.close()
  await there?.close()
  rmSync(folder, { recursive: true })
})

const open = async (url: string): Promise<Page> => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, acceptDownloads: true })
  const page = await context.newPage()
  await page.goto(url)
  return page
}

it('a reel is worked off to nothing, handed over, and goes on in another Yodel to the last bit', async () => {
  const page = await open(`${here.url}/reels/${reel}/turnover`)
  const findings = page.locator('[data-open]')
  await findings.waitFor()
  // A recipe of one's own is kept for the show, and chosen.
  const recipe = page.getByLabel('Recipe', { exact: true })
  await page.getByLabel('Every track').uncheck()
  await page.getByRole('button', { name: 'Save as …' }).click()
  await page.keyboard.type('Ours')
  await page.keyboard.press('Enter')
  await expect.poll(() => recipe.locator('option:checked').textContent()).toBe('Ours')
  await page.reload()
  await expect.poll(() => recipe.locator('option').allTextContents()).toContain('Ours')
  await recipe.selectOption('editor')
  const left = async (): Promise<number> => Number(await findings.getAttribute('data-open'))
  expect(await left()).toBeGreaterThan(2)
  // Each finding is accepted with a reason, until none is left.
  for (let count = await left(); count > 0; count = await left()) {
    const group = page.locator('[data-check]').first()
    const head = group.getByRole('button').first()
    if ((await head.getAttribute('aria-expanded')) === 'false') await head.click()
    await group.getByRole('button', { name: 'Accept …' }).first().click()
    await page.keyboard.type('As agreed')
    await page.keyboard.press('Enter')
    await expect.poll(left).toBeLessThan(count)
  }
  await page.getByText('Nothing is open.').first().waitFor()

  // The paper shows both sounds and the cue before anything is made.
  const paper = page.locator('[data-sheet-page="1"]')
  await expect.poll(() => paper.textContent()).toContain('Hebel 門')
  await page.getByLabel('Name of this turnover').fill('To Mara')
  const hand = page.getByRole('button', { name: /^Hand over \d+ files$/ })
  const promised = Number(/\d+/.exec((await hand.textContent()) ?? '')?.[0])
  await hand.click()
  const went = page.locator('[data-turnover="1"]')
  await went.waitFor({ timeout: 90_000 })
  const [kept] = await ask<KeptTurnover[]>(here, `/reels/${reel}/turnovers`)
  expect(kept).toMatchObject({ name: 'To Mara', number: 1, files: promised })
  expect(kept!.findings.filter(({ accepted }) => accepted?.reason !== 'As agreed')).toEqual([])

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    went.getByRole('link', { name: /^ZIP/ }).click(),
  ])
  const zip = path.join(folder, 'package.zip')
  await download.saveAs(zip)
  expect(execFileSync('unzip', ['-t', zip]).toString()).toMatch(/No errors detected/)
  const { files } = await ask<{ files: KeptFile[] }>(here, `/turnovers/${kept!.id}`)
  const audio = files.find(({ kind }) => kind === 'audio')!
  const inZip = execFileSync('unzip', ['-p', zip, audio.path], { maxBuffer: 1 << 28 })
  expect(createHash('sha256').update(inZip).digest('hex')).toBe(audio.sha256)

  const other = await open(`${there.url}/`)
  await other.getByLabel('Package', { exact: true }).setInputFiles(zip)
  const opened = other.locator('[data-opened] a')
  await opened.waitFor({ timeout: 90_000 })
  expect(await opened.textContent()).toBe('Halt, Reel 1')
  const shows = await ask<Show[]>(there, '/shows')
  const reelThere = shows[0]!.reels[0]!.id
  expect(await ask<Shelf[]>(there, '/shelves')).toMatchObject([{ name: 'Halt, Reel 1', sounds: 2 }])
  const [mine, theirs] = [await bounced(here, reel), await bounced(there, reelThere)]
  expect(createHash('sha256').update(theirs).digest('hex')).toBe(
    createHash('sha256').update(mine).digest('hex'),
  )
  expect(createHash('sha256').update(mine).digest('hex')).toBe(audio.sha256)
  await other.context().close()

  // What is changed afterwards is told, and led to.
  const { seq, records } = await ask<ReelState>(here, `/reels/${reel}`)
  const bell = records.find(({ id }) => id === 'bell')! as Extract<(typeof records)[number], { kind: 'clip' }>
  const moved = { ...bell, start: bell.start + 1920 * 12, gain: -9 }
  const change = { label: 'Move', added: [], updated: [[bell, moved]], removed: [] }
  await ask(here, `/reels/${reel}/changes`, {
    changeId: randomUUID(),
    base: seq,
    role: 'do',
    target: null,
    change,
  })
  await page.reload()
  await went.getByRole('button', { name: 'Since then' }).click()
  const line = went.locator('[data-since-kind="moved"]')
  await expect.poll(() => line.textContent()).toMatch(/bell moved by \+\S*12, level −6\.0 dB to −9\.0 dB/)
  // On the Sheet the place is marked and the sound chosen.
  await line.getByRole('button').click()
  const strip = page.getByRole('region', { name: 'Changes since a turnover' })
  await expect.poll(() => strip.textContent()).toMatch(/Since turnover 1, To Mara.*10:00:10:12.*bell moved/)
  expect(await page.locator('[data-since-mark="262"]').count()).toBe(1)
  await strip.getByRole('link').click()
  await went.getByRole('button', { name: 'Since then' }).click()
  const notes = path.join(folder, 'notes.pdf')
  const [pdf] = await Promise.all([
    page.waitForEvent('download'),
    went.getByRole('link', { name: /Change notes/ }).click(),
  ])
  await pdf.saveAs(notes)
  expect(execFileSync('pdftotext', ['-layout', notes, '-']).toString()).toMatch(
    /Changes since turnover 1, To Mara[\s\S]*Moved\s+bell/,
  )
  expect(readFileSync(notes).length).toBeGreaterThan(1000)
  await page.context().close()
}, 240_000)
