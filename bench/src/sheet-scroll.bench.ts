// A crowded reel (2,000 cues, 30 tracks, 5,000 sounds) in the real page: how soon it can be worked on, and how even its frames are
// while it plays and while the paper and a sound are dragged, at four zooms.
import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import {
  addTrack,
  apply,
  CATEGORIES,
  expectOk,
  frameToSample,
  FRAME_RATES,
  recordsOf,
  spotCue,
  documentOf,
  type Clip,
  type Cue,
  type Frames,
  type ReelDocument,
  type ReelRecord,
  type ReelState,
  type Sound,
} from '@yodel/core'
import type { Page } from 'playwright-core'
import { launch } from '../../e2e/support/browser.js'
import { realServer } from '../../e2e/support/server.js'
import { numberedMovie, openReelWith } from './movies.js'
import { percentile, report } from './report.js'

const CUES = 2000
const TRACKS = 30
const CLIPS = 5000
const LENGTH = 20 * 60 * 24
const ZOOM_STEPS = [-6, 0, 5, 10]
const rate = FRAME_RATES['24']
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-scroll-'))
const shelf = path.join(folder, 'shelf')
mkdirSync(shelf)
for (let sound = 0; sound < 12; sound++) {
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    `anoisesrc=duration=${1 + (sound % 4)}:seed=${sound}:amplitude=0.4,afade=t=out:d=1`,
    '-ar',
    '48000',
    path.join(shelf, `sound ${sound}.wav`),
  ])
}
const server = await realServer({ demo: false, roots: folder })
const post = async (url: string, body: object): Promise<unknown> =>
  (await fetch(server.url + url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })).json()
await post('/api/shelves', { path: shelf })
let sounds: Sound[] = []
while (sounds.length < 12) {
  await new Promise((resolve) => setTimeout(resolve, 300))
  sounds = ((await (await fetch(`${server.url}/api/sounds`)).json()) as { sounds: Sound[] }).sounds
}

/** Fills a reel: cues all over it, sounds one after the other on every track. */
function crowded(doc: ReelDocument): ReelRecord[] {
  const before = new Set(recordsOf(doc).map((record) => record.id))
  let full = doc
  for (let track = 0; track < TRACKS; track++) full = expectOk(apply(full, expectOk(addTrack(full, { id: `t${track}`, category: CATEGORIES[track % 6] ?? 'FX' }))))
  const cue = expectOk(spotCue(doc, { id: 'x', category: 'FX', in: 0, out: 12 })).added[0] as Cue
  const cues = Array.from({ length: CUES }, (_, index): Cue => {
    const at = Math.floor((index * (LENGTH - 100)) / CUES)
    return {
      ...cue,
      id: `q${index}`,
      category: CATEGORIES[index % 6] ?? 'FX',
      number: 1 + Math.floor(index / 6),
      in: at,
      out: at + 10 + (index % 50),
      sync: at,
      words: `Cue ${index}, heard somewhere in the crowd`,
      state: index % 3 ? 'open' : 'ready',
    }
  })
  const each = Math.ceil(CLIPS / TRACKS)
  const clips = Array.from({ length: CLIPS }, (_, index): Clip => {
    const sound = sounds[index % sounds.length] as Sound
    const frame = Math.floor(((index % each) * (LENGTH - 200)) / each)
    return {
      kind: 'clip',
      id: `c${index}`,
      trackId: `t${Math.floor(index / each)}`,
      cueId: `q${index % CUES}`,
      soundId: sound.id,
      name: sound.name,
      start: frameToSample(frame as Frames, rate),
      length: Math.min(sound.length, 150_000),
      offset: 0,
      sync: 0,
      recorded: sound.length,
      gain: -6,
      fadeIn: 96,
      fadeOut: 9600,
      fadeInShape: 'linear',
      fadeOutShape: 'linear',
      mute: false,
      speed: 1,
      keepPitch: false,
      reverse: false,
      sides: 'kept',
      group: '',
      locked: false,
    }
  })
  return [...recordsOf(full).filter((record) => !before.has(record.id)), ...cues, ...clips]
}

/** Runs something and returns the times between the page's refreshes while it ran. */
async function frameTimes(page: Page, act: () => Promise<void>): Promise<number[]> {
  await page.evaluate(() => {
    const state = { times: [] as number[], on: true }
    Object.assign(window, { frameState: state })
    let last = performance.now()
    const look = (now: number): void => {
      state.times.push(now - last)
      last = now
      if (state.on) requestAnimationFrame(look)
    }
    requestAnimationFrame(look)
  })
  await act()
  return page.evaluate(() => {
    const { frameState } = window as unknown as { frameState: { times: number[]; on: boolean } }
    frameState.on = false
    return frameState.times.slice(2)
  })
}

const browser = await launch()
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.addInitScript({ content: 'globalThis.__name = (named) => named' })
await openReelWith(server, page, '24', numberedMovie(folder, '24', 20))
const id = page.url().split('/').at(-1) ?? ''
const state = (await (await fetch(`${server.url}/api/reels/${id}`)).json()) as ReelState
const reel = state.records.find((record) => record.kind === 'reel') as ReelRecord
const change = { label: 'Crowd', added: crowded(documentOf(state.records)), updated: [[reel, { ...reel, length: LENGTH }]], removed: [] }
await post(`/api/reels/${id}/changes`, { changeId: crypto.randomUUID(), base: state.seq, role: 'do', target: null, change })

const opens: number[] = []
for (let open = 0; open < 5; open++) {
  await page.goto('about:blank')
  await page.goto(`${server.url}/reels/${id}`, { waitUntil: 'commit' })
  // Usable: cues, sounds and timecode are painted. Counted from the beginning of the navigation.
  opens.push(
    await page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          const look = (): void => {
            if (document.querySelector('[data-cue]') && document.querySelector('[data-clip]') && document.querySelector('[data-timecode]')?.textContent)
              requestAnimationFrame(() => resolve(performance.now()))
            else requestAnimationFrame(look)
          }
          look()
        }),
    ),
  )
}
const all: number[] = []
const sheet = await page.locator('[data-sheet]').boundingBox()
if (!sheet) throw new Error('there is no Sheet')
await page.waitForTimeout(2000)
for (const steps of ZOOM_STEPS) {
  for (let step = 0; step < Math.abs(steps); step++) await page.keyboard.press(steps < 0 ? '-' : '+')
  for (const key of ['.']) await page.keyboard.press(key)
  await page.keyboard.insertText('1:10:00:00')
  await page.keyboard.press('Enter')
  await page.waitForTimeout(1500)
  const playing = await frameTimes(page, async () => {
    await page.locator('[data-timecode]').press('Space')
    await page.waitForTimeout(5000)
    await page.locator('[data-timecode]').press('Space')
  })
  const paper = await frameTimes(page, async () => {
    const x = sheet.x + 300
    await page.mouse.move(x, sheet.y + 640)
    await page.mouse.down()
    for (let move = 0; move < 120; move++) await page.mouse.move(x, sheet.y + 640 - move * 4)
    await page.mouse.up()
  })
  const clip = await page.evaluate(() => {
    const inside = { top: 160, bottom: 700, left: 610, right: 960 }
    for (const element of document.querySelectorAll('[data-clip]')) {
      const box = element.getBoundingClientRect()
      const [top, bottom] = [Math.max(box.top + 10, inside.top), Math.min(box.bottom - 10, inside.bottom)]
      if (bottom - top > 4 && box.left > inside.left && box.right < inside.right) return { x: box.left + 20, y: (top + bottom) / 2 }
    }
    return null
  })
  const sound = clip
    ? await frameTimes(page, async () => {
        await page.mouse.move(clip.x, clip.y)
        await page.mouse.down()
        for (let move = 0; move < 100; move++) await page.mouse.move(clip.x, clip.y + Math.sin(move / 12) * 60)
        await page.keyboard.press('Escape')
        await page.mouse.up()
      })
    : []
  console.error(
    `${steps}: playing ${percentile(playing, 0.95).toFixed(1)}, paper ${percentile(paper, 0.95).toFixed(1)} of ${paper.length}, sound ${sound.length > 0 ? percentile(sound, 0.95).toFixed(1) : 'none'} of ${sound.length}`,
  )
  for (let step = 0; step < Math.abs(steps); step++) await page.keyboard.press(steps < 0 ? '+' : '-')
  all.push(...playing, ...paper, ...sound)
}
await browser.close()
await server.close()
rmSync(folder, { recursive: true })
report({ name: 'sheet-open', value: percentile(opens, 0.95), unit: 'ms' })
report({ name: 'sheet-scroll.p95', value: percentile(all, 0.95), unit: 'ms' })
