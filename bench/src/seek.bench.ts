// 200 random frames of each rate, and of a reel of 20 minutes, asked for by typing a timecode; the number is read from the picture.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { FRAME_RATES, formatTimecode, parseTimecode, type FrameRateId } from '@yodel/core'
import { launch } from '../../e2e/support/browser.js'
import { realServer } from '../../e2e/support/server.js'
import { numberedMovie, openReelWith, teachReading } from './movies.js'
import { percentile, report } from './report.js'

const SEEKS = Number(process.env['YODEL_BENCH_SEEKS'] ?? 200)
const RATES: FrameRateId[] = [
  '23.976',
  '24',
  '25',
  '29.97',
  '29.97d',
  '30',
  '47.952',
  '48',
  '50',
  '59.94',
  '59.94d',
  '60',
]
const LONG = 20 * 60
/** For looking at that part alone. */
const ONLY_LONG = process.env['YODEL_BENCH_LONG'] === '1'
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-seek-'))
const server = await realServer({ demo: false, roots: folder })
const browser = await launch()
let state = 11
const random = (below: number): number =>
  Math.floor(((state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648) * below)

/** Jumps about in a movie of so many seconds. */
async function jump(
  id: FrameRateId,
  seconds: number,
  large = false,
): Promise<{ exact: number; times: number[] }> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await teachReading(page)
  const movie = await numberedMovie(folder, id.replace('d', '') as FrameRateId, seconds)
  const picture = await openReelWith(server, page, id, movie)
  // From small to large to as large as it gets.
  if (large) for (let size = 0; size < 2; size++) await page.keyboard.press('Shift+p')
  const rate = FRAME_RATES[id]
  const first = parseTimecode('01:00:00:00', rate)
  let exact = 0
  const times: number[] = []
  for (let seek = 0; seek < SEEKS; seek++) {
    const frame = random(picture.frames)
    await page.keyboard.press('.')
    await page.keyboard.insertText(formatTimecode((first.ok ? first.frame : 0) + frame, rate))
    // From the key to the refresh at which the picture bears the number (or 1.5 s); then once more, that it stays.
    await page.evaluate((wanted) => {
      window.arrived = new Promise<number>((resolve) => {
        const onKey = (): void => {
          const begun = performance.now()
          const look = (): void => {
            if (window.readNumber() === wanted || performance.now() - begun > 1500)
              resolve(performance.now() - begun)
            else requestAnimationFrame(look)
          }
          requestAnimationFrame(look)
        }
        addEventListener('keydown', onKey, { once: true, capture: true })
      })
    }, frame)
    await page.keyboard.press('Enter')
    times.push(await page.evaluate(() => window.arrived))
    await page.waitForTimeout(20)
    if ((await page.evaluate(() => window.readNumber())) === frame) exact++
  }
  await page.close()
  console.error(
    `${id}, ${seconds} s${large ? ', large' : ''}: ${exact} exact, p95 ${percentile(times, 0.95).toFixed(1)} ms`,
  )
  return { exact, times }
}

const short = []
for (const id of ONLY_LONG ? [] : RATES) short.push(await jump(id, 8))
const large = ONLY_LONG ? null : await jump('24', 8, true)
const long = await jump('24', LONG)
await browser.close()
await server.close()
rmSync(folder, { recursive: true })
const exact = [...short, long].reduce((sum, one) => sum + one.exact, 0)
report({ name: 'seek.exact', value: (100 * exact) / (SEEKS * (short.length + 1)), unit: '%' })
const times = short.flatMap((one) => one.times)
if (times.length > 0) report({ name: 'seek.p95', value: percentile(times, 0.95), unit: 'ms' })
if (large)
  report({
    name: 'seek.large.p95',
    value: percentile(large.times, 0.95),
    unit: 'ms with the picture at its largest',
  })
report({
  name: 'seek.long.p95',
  value: percentile(long.times, 0.95),
  unit: 'ms in a movie of 20 minutes (at most 60)',
})
