// Recording to picture: how near takes lie to the frames that they were performed at, and whether all of ten minutes is there when the
// server is killed twice while they are recorded and the browser at their end.
import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { documentOf, SAMPLE_RATE, syncPlace, type Clip, type ReelDocument, type ReelState } from '@yodel/core'
import { chromium, type BrowserContext, type Page } from 'playwright-core'
import { CHROMIUM, FLAGS } from '../../e2e/support/browser.js'
import { lagsOf } from '../../e2e/support/lags.js'
import { realServer } from '../../e2e/support/server.js'
import { percentile, report } from './report.js'

const TAKES = 20
const MINUTES = Number(process.env['YODEL_BENCH_MINUTES'] ?? 10)
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-record-'))
const server = await realServer({ demo: false })
const facts = {
  ...{ showId: null, showName: 'Takes', name: 'Reel 1', rate: '24', firstTimecode: '01:00:00:00' },
  lengthSeconds: 60 * MINUTES + 120,
}
const made = await fetch(`${server.url}/api/reels`, {
  ...{ method: 'POST', body: JSON.stringify(facts), headers: { 'content-type': 'application/json' } },
})
const { id: reelId } = (await made.json()) as { id: string }

const fed = path.join(folder, 'fed.wav')
const noise = ['synth', String(60 * MINUTES + 60), 'whitenoise', 'sinc', '200-2000', 'gain', '-12']
execFileSync('sox', ['-R', '-n', '-r', '44100', '-c', '1', '-b', '16', fed, ...noise])
const profile = path.join(folder, 'profile')
const MICROPHONE = [
  ...['--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream'],
  `--use-file-for-fake-audio-capture=${fed}`,
]

async function openReel(): Promise<{ context: BrowserContext; page: Page }> {
  const options = { executablePath: CHROMIUM, args: [...FLAGS, ...MICROPHONE] }
  const context = await chromium.launchPersistentContext(profile, {
    ...{ ...options, viewport: { width: 1280, height: 800 } },
  })
  const page = await context.newPage()
  await page.goto(`${server.url}/reels/${reelId}`)
  await page.waitForSelector('[data-timecode]')
  return { context, page }
}
async function reel(): Promise<ReelDocument> {
  const state = (await (await fetch(`${server.url}/api/reels/${reelId}`)).json()) as ReelState
  return documentOf(state.records)
}
const seen = new Set<string>()
/** The sound that has come onto the reel since this was last asked, when it has. */
async function newest(): Promise<Clip> {
  for (const since = performance.now(); performance.now() - since < 60_000;) {
    const fresh = [...(await reel()).clip.values()].find(({ id }) => !seen.has(id))
    if (fresh) {
      seen.add(fresh.id)
      return fresh
    }
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
  throw new Error('no take has come onto the reel within a minute')
}
async function samplesOf({ soundId }: Clip): Promise<Float32Array> {
  const { path: below } = (await (await fetch(`${server.url}/api/sounds/${soundId}/file`)).json()) as {
    path: string
  }
  const root = path.join(server.dataDir, 'made')
  return decoded(path.join(root, readdirSync(root)[0] ?? '', below))
}
function decoded(file: string): Float32Array {
  const args = ['-v', 'error', '-i', file, '-ar', String(SAMPLE_RATE), '-f', 'f32le', '-']
  const { stdout } = spawnSync('ffmpeg', args, { maxBuffer: 2 ** 30 })
  return new Float32Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + stdout.length))
}
const goTo = async (page: Page, timecode: string): Promise<void> => {
  await page.keyboard.press('.')
  await page.keyboard.type(timecode, { delay: 15 })
  await page.keyboard.press('Enter')
}

// Clicks that the stand-in performs at known frames.
const { context, page } = await openReel()
await page.keyboard.press('Alt+Shift+R')
await page.waitForSelector('[data-record="ready"]')
await page.getByLabel('Input', { exact: true }).selectOption('stand-in:click')
await page.waitForSelector('[data-record="ready"][data-input="stand-in:click"]')
await page.getByRole('button', { name: 'Measure' }).click()
await page.waitForSelector('text=/ms measured/')
const roundTrip = Number(await page.locator('[data-round-trip]').getAttribute('data-round-trip'))
report({ name: 'record.round-trip', value: (1000 * roundTrip) / SAMPLE_RATE, unit: 'ms' })
await page.getByLabel('Count in').uncheck()
const off: number[] = []
for (let take = 0; take < TAKES; take++) {
  await goTo(page, `1:00:${String(5 + take).padStart(2, '0')}:${String((7 * take) % 24).padStart(2, '0')}`)
  await page.keyboard.press('Alt+Shift+R')
  await page.waitForSelector('[data-record="rolling"]')
  await page.waitForTimeout(2500)
  await page.keyboard.press('Space')
  const clip = await newest()
  const samples = await samplesOf(clip)
  const click = samples.reduce((best, v, at) => (Math.abs(v) > Math.abs(samples[best] ?? 0) ? at : best), 0)
  // The moment that it was performed at is a frame of the reel: the gate.
  off.push((1000 * Math.abs(clip.start - clip.offset + click - syncPlace(clip))) / SAMPLE_RATE)
}
report({ name: 'record.placement.p95', value: percentile(off, 0.95), unit: 'ms' })

// A microphone for minutes, with everything killed once.
await page.getByLabel('Input', { exact: true }).selectOption({ index: 0 })
await page.waitForSelector('[data-record="ready"]:not([data-input^="stand-in"])')
await page.keyboard.press('Home')
await goTo(page, '1:00:02:0')
await page.keyboard.press('Alt+Shift+R')
await page.waitForSelector('[data-record="rolling"]')
const third = (60_000 * MINUTES) / 3
for (let kill = 0; kill < 2; kill++) {
  await page.waitForTimeout(third)
  server.kill()
  await page.waitForTimeout(3000)
  await server.start()
}
await page.waitForTimeout(third)
const heard = await page.evaluate(() => {
  const { yodelProbe } = window as unknown as { yodelProbe: { audibleAt: (now: number) => number } }
  return yodelProbe.audibleAt(performance.now())
})
spawnSync('pkill', ['-9', '-f', profile])
await context.close().catch(() => undefined)
const later = await openReel()
const clip = await newest()
const got = await samplesOf(clip)
report({ name: 'record.long', value: got.length / SAMPLE_RATE, unit: 's' })
// What came in at the kill was performed to what was heard then, less the way into the input: that counts as lost, too.
const lost = heard - (clip.start - clip.offset + got.length)
report({ name: 'record.lost-at-kill', value: (1000 * lost) / SAMPLE_RATE, unit: 'ms' })

const given = decoded(fed)
const lags = lagsOf(got, given).map(({ lag, alike }, index) => ({ lag, alike, at: (index + 1) / 2 }))
// A half second with a gap in it is like nothing.
const sure = lags.filter(({ alike }) => alike > 0.9)
const jumps = sure.map(({ lag, at }, index) => ({ at, jump: lag - (sure[index - 1]?.lag ?? lag) }))
const gaps = jumps.filter(({ jump }) => Math.abs(jump) > 1)
for (const { at, jump } of gaps) console.error(`${at} s: ${jump} samples`)
report({ name: 'record.gaps', value: gaps.length, unit: 'gaps' })
report({ name: 'record.windows', value: lags.length, unit: 'half seconds' })
report({ name: 'record.alike', value: 100 * Math.min(...lags.map(({ alike }) => alike)), unit: '% at least' })
await later.context.close()
await server.close()
rmSync(folder, { recursive: true })
process.exit()
