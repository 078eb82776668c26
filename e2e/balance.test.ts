import { execFileSync } from 'node:child_process'
import { insertsOn, responseDb, sectionOf, WHOLE, type SectionShape } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { bounced } from './support/bounce.js'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'

const DEMO = 'demo-reel-1'
const stage = onDemo()

/** What ffmpeg measures of a file: highest sample in dBFS. */
function peakOf(wav: Buffer): number {
  const said = execFileSync(
    'sh',
    [
      '-c',
      'ffmpeg -hide_banner -i - -af astats=measure_perchannel=none:measure_overall=Peak_level -f null - 2>&1',
    ],
    { input: wav },
  ).toString()
  return Number(/Peak level dB: (-?[\d.]+)/.exec(said)?.[1])
}

describe('balance', () => {
  it('limits the whole, in the bounce as ffmpeg measures it; moves, passes by and takes back pieces', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    expect(peakOf(await bounced(stage.server, DEMO))).toBeGreaterThan(-22)
    await editor.press('Shift+B')
    await page.selectOption('[data-balance] [aria-label="Add treatment"]', 'limiter')
    await page.fill('[data-balance] [aria-label="Ceiling, typed"]', '-24')
    await editor.press('Enter')
    await editor.saved()
    const limited = peakOf(await bounced(stage.server, DEMO))
    expect(limited).toBeLessThanOrEqual(-23.99)
    expect(limited).toBeGreaterThan(-24.5)
    await page.selectOption('[data-balance] [aria-label="Add treatment"]', 'equaliser')
    await page.click('[data-balance] [aria-label="Equaliser earlier"]')
    await page.click('[data-balance] [aria-label="Pass Limiter by"]')
    const pieces = insertsOn(await editor.document(), WHOLE)
    expect(pieces.map(({ effect, bypass }) => [effect, bypass])).toEqual([
      ['equaliser', false],
      ['limiter', true],
    ])
    expect(peakOf(await bounced(stage.server, DEMO))).toBeGreaterThan(-22)
    // What can't be is refused, and says so.
    await page.click('[data-balance] [aria-label="Settings of Limiter"]')
    await page.fill('[data-balance] [aria-label="Ceiling, typed"]', '12')
    await editor.press('Enter')
    await page.waitForSelector('text=ceiling')
    await page.reload()
    await editor.seesPicture()
    for (let back = 0; back < 5; back++) await editor.press('Control+z')
    expect(insertsOn(await editor.document(), WHOLE)).toEqual([])
    await page.close()
  }, 240_000)

  it('hears what is pulled before it is let go, and keeps it once', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const before = await editor.document()
    await page.click('[data-head="track-4"] [aria-label^="Name of track"]')
    await editor.press('Escape')
    const slider = page.locator('[data-card] input[type="range"]').first()
    const box = (await slider.boundingBox())!
    await page.mouse.move(box.x + box.width * 0.8, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width * 0.5, box.y + box.height / 2, { steps: 5 })
    expect(await editor.document()).toEqual(before)
    await page.mouse.up()
    await editor.saved()
    expect((await editor.document()).track.get('track-4')!.level).toBeCloseTo(-18, -0.7)
    await editor.press('Control+z')
    expect((await editor.document()).track).toEqual(before.track)
    await page.close()
  }, 120_000)

  it('keeps a balance, hears it beside the later one as loud as that, and takes it over', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const before = await editor.document()
    await editor.goTo('1:00:04:00')
    await editor.press('Shift+B')
    await page.click('text=Keep the present one')
    await page.fill('[aria-label="Name of the milestone"]', 'First balance')
    await page.click('form >> text=Save')
    await page.waitForFunction(() =>
      [...document.querySelectorAll('[aria-label="Earlier balance"] option')].some(
        (option) => option.textContent === 'First balance',
      ),
    )
    // All that sounds there is taken down by 9 dB: the first balance is then 9 dB too loud.
    for (const track of before.track.values()) {
      const head = page.locator(`[data-head="${track.id}"] button`).first()
      // Only tracks in sight, and a little beyond, are drawn.
      while ((await head.count()) === 0)
        await page
          .locator('[data-sheet] > .overflow-x-auto')
          .evaluate((tracks) => tracks.scrollBy({ left: 60 }))
      await head.click()
      await page.fill('[data-card] [aria-label="Level, decibels"]', String(track.level - 9))
      await editor.press('Enter')
    }
    await page.selectOption('[aria-label="Earlier balance"]', { label: 'First balance' })
    await page.click('text=Hear it')
    await page.waitForSelector('text=by −9.0 dB as loud as now', { timeout: 30_000 })
    await page.click('text=Take it over')
    const after = await editor.document()
    expect([...after.track.values()].map(({ level }) => level)).toEqual(
      [...before.track.values()].map(({ level }) => level),
    )
    await page.close()
  }, 180_000)
})

// Checked against another's work: the browser's own BiquadFilterNode, after the same published formulas (W3C Audio EQ Cookbook).
it('equalises as the browser’s own filters do, to a hundredth of a decibel', async () => {
  const page = await stage.browser.newPage()
  const asked: [SectionShape, number, number, number][] = [
    ['highPass', 90, 0, Math.SQRT1_2],
    ['lowPass', 7000, 0, Math.SQRT1_2],
    ['lowShelf', 200, 7, Math.SQRT1_2],
    ['highShelf', 5000, -11, Math.SQRT1_2],
    ['bell', 1200, 9, 2.5],
    ['bell', 300, -14, 0.6],
  ]
  const hertz = [25, 90, 210, 480, 1200, 3300, 7000, 15_000]
  const theirs = await page.evaluate(
    ({ asked, hertz }) => {
      const names = {
        highPass: 'highpass',
        lowPass: 'lowpass',
        lowShelf: 'lowshelf',
        highShelf: 'highshelf',
        bell: 'peaking',
      } as const
      const context = new OfflineAudioContext(1, 128, 48_000)
      return asked.map(([shape, frequency, gain, q]) => {
        // Of passes the browser wants Q in decibels.
        const Q = shape === 'highPass' || shape === 'lowPass' ? 20 * Math.log10(q) : q
        const filter = new BiquadFilterNode(context, { type: names[shape], frequency, gain, Q })
        const magnitudes = new Float32Array(hertz.length)
        filter.getFrequencyResponse(Float32Array.from(hertz), magnitudes, new Float32Array(hertz.length))
        return [...magnitudes].map((magnitude) => 20 * Math.log10(magnitude))
      })
    },
    { asked, hertz },
  )
  for (const [index, [shape, frequency, gain, q]] of asked.entries())
    for (const [at, hz] of hertz.entries())
      expect(responseDb([sectionOf(shape, frequency, gain, q)], hz)).toBeCloseTo(theirs[index]![at]!, 2)
  await page.close()
})
