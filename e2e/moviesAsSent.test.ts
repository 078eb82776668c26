import { readFileSync, truncateSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { onEmpty } from './support/empty.js'

// Movies as cutting rooms and phones send them, brought in by hand.
const stage = onEmpty()
const movie = stage.make
const moving = (rate: number, seconds: number): string[] => [
  ...['-f', 'lavfi', '-i', `testsrc=size=320x180:rate=${rate}:duration=${seconds}`],
]

/** Makes a reel at 25 frames a second and brings a movie into it from this computer. */
async function bringIn(show: string, file: string): Promise<void> {
  const { page, server } = stage
  await page.goto(server.url)
  await page.getByRole('button', { name: /^(New reel|Make the first reel)/ }).click()
  await page.getByLabel('Show', { exact: true }).fill(show)
  await page.getByLabel('Frame rate').selectOption('25')
  await page.getByRole('button', { name: 'Make the reel' }).click()
  await page.getByText('No picture yet').waitFor()
  await page.setInputFiles('input[type=file]', file)
}
const sees = (frame: number): Promise<unknown> =>
  stage.page.waitForFunction(
    (wanted) =>
      (document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] === String(wanted),
    frame,
    { timeout: 60_000 },
  )

describe('an eight-track MXF with timecode', () => {
  it('has each track to be heard, and is laid at its timecode', async () => {
    const { page } = stage
    const tones = [0, 200, 300, 400, 500, 600, 700, 800]
    const file = movie(
      'reel one.mxf',
      ...moving(25, 3),
      ...tones.flatMap((hz) => ['-f', 'lavfi', '-i', `sine=${hz || 1}:r=48000:d=3`]),
      ...['-map', '0', ...tones.flatMap((_, index) => ['-map', String(index + 1)])],
      ...['-c:v', 'mpeg2video', '-c:a', 'pcm_s24le', '-timecode', '01:00:00:10'],
    )
    await bringIn('As sent', file)
    await sees(0)
    const banner = page.getByRole('alert').filter({ hasText: 'timecode begins at' })
    expect(await banner.textContent()).toContain(
      'The file’s timecode begins at 01:00:00:10, 10 frames after where the picture lies.',
    )
    await page.click('text=Move the picture to its timecode')
    await banner.waitFor({ state: 'detached' })
    await page.keyboard.press('.')
    await page.keyboard.type('1:00:01:00')
    await page.keyboard.press('Enter')
    await sees(15)

    const other = await page.context().newPage()
    await other.goto(page.url())
    await other.getByRole('button', { name: 'all 8 tracks' }).waitFor()
    await page.bringToFront()
    await page.getByRole('button', { name: 'all 8 tracks' }).click()
    await page.getByRole('button', { name: 'Hear only 3, mono' }).click()
    await page.getByLabel('Draw 3, mono').check()
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'track 3 of 8' }).waitFor()
    // Another tab knows when one comes back to it.
    await other.evaluate(() => window.dispatchEvent(new Event('focus')))
    await other.getByRole('button', { name: 'track 3 of 8' }).waitFor()
    await other.close()
    await page.reload()
    await page.getByRole('button', { name: 'track 3 of 8' }).click()
    expect(await page.getByLabel('Draw 3, mono').isChecked()).toBe(true)
    expect(await page.getByLabel('Hear 4, mono').isChecked()).toBe(false)
  })
})

it('a phone’s movie is shown in time, and says how', async () => {
  const { page } = stage
  const file = movie(
    'phone.mp4',
    ...['-f', 'lavfi', '-i', 'testsrc=size=320x180:rate=600:duration=4', '-vf'],
    "select='if(lt(t,2),not(mod(n,20)),not(mod(n,25)))'",
    ...['-fps_mode', 'vfr', '-c:v', 'libx264', '-preset', 'ultrafast'],
  )
  await bringIn('Phone', file)
  await page.getByText(/phone\.mp4 does not run evenly at .* each moment is shown where it belongs/).waitFor({
    timeout: 60_000,
  })
})

it('a trimmed MOV begins with the frame it was trimmed to', async () => {
  const { page } = stage
  const whole = movie(
    'whole.mov',
    ...moving(25, 4),
    ...['-f', 'lavfi', '-i', 'sine=440:r=48000:d=4'],
    ...['-c:v', 'libx264', '-g', '50', '-bf', '2', '-c:a', 'pcm_s16le'],
  )
  await bringIn('Trimmed', movie('trimmed.mov', '-ss', '1.6', '-i', whole, '-c', 'copy'))
  await sees(0)
  await page.keyboard.press('End')
  // 2.4 of the four seconds are left.
  await sees(59)
})

it('a movie that was not copied whole is told, and taken when asked', async () => {
  const { page } = stage
  const file = movie('half.mp4', ...moving(25, 8), '-c:v', 'libx264', '-movflags', '+faststart')
  truncateSync(file, readFileSync(file).length >> 1)
  await bringIn('Half', file)
  await page.getByText(/half\.mp4 ends after .* it was not copied whole/).waitFor()
  await page.getByRole('button', { name: 'Take it as it is' }).click()
  await sees(0)
})
