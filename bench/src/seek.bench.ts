// 200 random frames of each rate, asked for by typing a timecode; the number is read from the picture.
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
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-seek-'))
const server = await realServer({ demo: false, roots: folder })
const browser = await launch()
let exact = 0
const times: number[] = []
let state = 11
const random = (below: number): number =>
  Math.floor(((state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648) * below)

for (const id of RATES) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await teachReading(page)
  const picture = await openReelWith(
    server,
    page,
    id,
    numberedMovie(folder, id.replace('d', '') as FrameRateId, 8),
  )
  const rate = FRAME_RATES[id]
  const first = parseTimecode('01:00:00:00', rate)
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
  console.error(`${id}: ${exact} exact so far, p95 ${percentile(times, 0.95).toFixed(1)} ms`)
}
await browser.close()
await server.close()
rmSync(folder, { recursive: true })
report({ name: 'seek.exact', value: (100 * exact) / (SEEKS * RATES.length), unit: '%' })
report({ name: 'seek.p95', value: percentile(times, 0.95), unit: 'ms' })
