// 200 hits at each speed: whether each stands on the frame that was on screen when its key went down, how soon it is heard (by the
// audio output's own time, as bench try has it), and whether hits of 20 a second are all there.
import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { FRAME_RATES, frames, frameToSample, type Pool, type Sound, type Take } from '@yodel/core'
import type { Page } from 'playwright-core'
import { launch } from '../../e2e/support/browser.js'
import { realServer, type RealServer } from '../../e2e/support/server.js'
import { numberedMovie, openReelWith, teachReading } from './movies.js'
import { percentile, report } from './report.js'

const HITS = Number(process.env['YODEL_BENCH_HITS'] ?? 200)
const FAST = 60

/** What the page is given beside the application: what leaves the player of hits, and what is seen and when as a key goes down. */
interface Probe {
  readonly seen: number[]
  /** Context times that left the loudspeaker when a key went down, and those of the blocks in which sound began. */
  readonly pressed: number[]
  readonly begun: number[]
}
const RECORDER = `
  globalThis.__name = (named) => named
  const module = 'registerProcessor("onset", class extends AudioWorkletProcessor { constructor() { super(); this.quiet = 9999 } process([input]) { const [side] = input; const at = side ? side.findIndex((one) => Math.abs(one) > 0.02) : -1; if (at >= 0) { if (this.quiet > 1500) this.port.postMessage((currentFrame + at) / sampleRate); this.quiet = 0 } else this.quiet += 128; return true } })'
  const connect = AudioNode.prototype.connect
  let node = null
  let context = null
  window.probe = { seen: [], pressed: [], begun: [] }
  AudioNode.prototype.connect = function (to, ...rest) {
    if (to instanceof AudioDestinationNode && this instanceof GainNode) {
      if (context !== this.context) {
        context = this.context
        context.audioWorklet.addModule(URL.createObjectURL(new Blob([module], { type: 'text/javascript' }))).then(() => {
          node = new AudioWorkletNode(context, 'onset', { numberOfOutputs: 0 })
          node.port.onmessage = ({ data }) => window.probe.begun.push(data)
        })
      }
      if (node) connect.call(this, node)
    }
    return connect.call(this, to, ...rest)
  }
  window.addEventListener('keydown', ({ code }) => {
    if (code !== 'KeyZ') return
    window.probe.seen.push(window.readNumber())
    const stamp = context?.getOutputTimestamp()
    if (stamp) window.probe.pressed.push(stamp.contextTime + (performance.now() - stamp.performanceTime) / 1000)
  }, true)`

const folder = mkdtempSync(path.join(tmpdir(), 'yodel-perform-'))
mkdirSync(path.join(folder, 'shelf'))
const click = path.join(folder, 'shelf', 'click.wav')
execFileSync('sox', [
  '-D',
  '-n',
  '-r',
  '48000',
  '-b',
  '24',
  '-c',
  '1',
  click,
  'synth',
  '0.02',
  'sine',
  '3000',
  'vol',
  '0.5',
])

const server = await realServer({ demo: false, roots: folder })
const browser = await launch()
const send = (method: string, url: string, body: object): Promise<Response> =>
  fetch(server.url + url, {
    ...{ method, headers: { 'content-type': 'application/json' } },
    body: JSON.stringify(body),
  })

/** The only sound of the shelf, once it has been listened to. */
async function theClick({ url }: RealServer): Promise<Sound> {
  await send('POST', '/api/shelves', { path: path.join(folder, 'shelf') })
  for (;;) {
    const { sounds } = (await (await fetch(`${url}/api/sounds`)).json()) as { sounds: Sound[] }
    if (sounds[0]?.measured) return sounds[0]
    await new Promise((resolve) => setTimeout(resolve, 300))
  }
}

const sound = await theClick(server)
const movie = await numberedMovie(folder, '24', 90)
const latencies: number[] = []
let right = 0
let hits = 0

async function openRow(): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, bypassCSP: true })
  const page = await context.newPage()
  await page.addInitScript({ content: RECORDER })
  await teachReading(page)
  await openReelWith(server, page, '24', movie)
  const pool: Pool = {
    ...{ id: crypto.randomUUID(), version: 0, key: 0, name: 'Click', category: 'FOL' },
    ...{ pick: 'other', held: false, live: '' },
    ...{
      gain: [0, 0],
      pitch: [0, 0],
      members: [{ soundId: sound.id, name: 'click', part: null, weight: 1 }],
    },
  }
  await send('PUT', `/api/reels/${page.url().split('/').at(-1)}/pools/${pool.id}`, pool)
  await page.keyboard.press('Shift+K')
  await page.waitForSelector('[data-pad="0"]')
  await page.waitForLoadState('networkidle')
  // Heard once before: from here on the recorder is there.
  await page.keyboard.press('z')
  await page.waitForTimeout(700)
  return page
}

const probeOf = (page: Page): Promise<Probe> =>
  page.evaluate(() => (window as unknown as { probe: Probe }).probe)
const takeOf = (page: Page): Promise<readonly Take[]> =>
  page.evaluate(() => {
    const key = Object.keys(localStorage).find((one) => one.startsWith('yodel-takes:')) ?? ''
    return JSON.parse(localStorage.getItem(key) ?? '[]') as Take[]
  })

for (const speed of [1, 0.5, 0.25]) {
  const page = await openRow()
  await page.click(`[aria-label="Speed ${speed}"]`)
  let left = HITS
  while (left > 0) {
    // A reel of 90 seconds does not hold all of them at full speed.
    const now = Math.min(left, speed === 1 ? 100 : HITS)
    await page.keyboard.press('Home')
    await page.locator('[data-timecode]').press('Space')
    await page.waitForTimeout(1200)
    for (let hit = 0; hit < now; hit++) {
      await page.keyboard.press('z')
      await page.waitForTimeout(170 + ((hit * 37) % 130))
    }
    await page.locator('[data-timecode]').press('Space')
    left -= now
  }
  const { seen, pressed, begun } = await probeOf(page)
  const shown = seen.slice(-HITS)
  const stored = (await takeOf(page)).flatMap((take) => take.hits.map(({ at }) => at))
  hits += HITS
  right += shown.filter(
    (frame, index) => stored[index] === frameToSample(frames(frame), FRAME_RATES['24']),
  ).length
  for (const at of pressed.slice(-HITS)) {
    const heard = begun.find((one) => one > at)
    if (heard !== undefined && heard - at < 0.16) latencies.push((heard - at) * 1000)
  }
  console.error(
    `speed ${speed}: ${stored.length} stored of ${shown.length}, heard p95 ${percentile(latencies, 0.95).toFixed(1)} ms of ${latencies.length}`,
  )
  await page.context().close()
}

const page = await openRow()
await page.locator('[data-timecode]').press('Space')
await page.waitForTimeout(800)
for (let hit = 0; hit < FAST; hit++) {
  await page.keyboard.press('z')
  await page.waitForTimeout(1000 / 20 - 8)
}
await page.locator('[data-timecode]').press('Space')
const kept = (await takeOf(page)).reduce((sum, take) => sum + take.hits.length, 0)
await browser.close()
await server.close()
rmSync(folder, { recursive: true })
report({ name: 'perform.right-frame', value: (100 * right) / hits, unit: '%' })
report({ name: 'perform.key-to-sound', value: percentile(latencies, 0.95), unit: 'ms p95 (at most 40)' })
report({ name: 'perform.heard', value: (100 * latencies.length) / hits, unit: '% of the hits' })
report({ name: 'perform.fast', value: (100 * kept) / FAST, unit: '% of 20 a second' })
