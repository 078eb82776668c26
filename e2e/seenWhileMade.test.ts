import { addCut, documentOf, expectOk, type Picture, type ReelState } from '@yodel/core'
import { expect, it } from 'vitest'
import { onEmpty } from './support/empty.js'

const stage = onEmpty()

const post = async <T>(url: string, body: object): Promise<T> =>
  (await (
    await fetch(stage.server.url + url, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
  ).json()) as T

it('a movie is seen while it is made: what is there is right, what is not says so and comes', async () => {
  // Large and long enough that it takes a while; white from its second half on.
  const { page, server } = stage
  const movie = stage.make(
    'long.mp4',
    ...['-f', 'lavfi', '-i', 'testsrc2=size=1920x1080:rate=25:duration=40'],
    ...['-vf', "drawbox=color=white:t=fill:enable='gte(n,500)'"],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-threads', '2'],
  )
  const reel = await post<{ id: string }>('/api/reels', {
    ...{ showId: null, showName: 'Growing', name: 'Reel 1', rate: '25' },
    ...{ firstTimecode: '01:00:00:00', lengthSeconds: 40 },
  })
  const picture = await post<Picture>('/api/pictures/pick', { path: movie })
  const { records } = (await (await fetch(`${server.url}/api/reels/${reel.id}`)).json()) as ReelState
  const cut = { id: 'cut', pictureId: picture.id, name: picture.name, length: picture.frames }
  await post(`/api/reels/${reel.id}/changes`, {
    ...{ changeId: crypto.randomUUID(), base: 1, role: 'do', target: null },
    change: expectOk(addCut(documentOf(records), cut)),
  })
  await page.goto(`${server.url}/reels/${reel.id}`)
  const isWhite = (): Promise<boolean> =>
    page.evaluate(() => {
      const canvas = document.querySelector('[data-picture]') as HTMLCanvasElement
      const pixels = canvas.getContext('2d')!.getImageData(0, 180, 640, 1).data
      return pixels.every((value) => value > 200)
    })
  // The first frames are there long before the last.
  await page.locator('[data-picture][data-frame="0"]').waitFor({ timeout: 60_000 })
  await page.locator('[data-preparing]').waitFor()
  const { made, state } = (await (await fetch(`${server.url}/api/pictures/${picture.id}`)).json()) as Picture
  expect(state).toBe('waiting')
  expect(made).toBeLessThan(picture.frames)
  expect(await isWhite()).toBe(false)
  // The last one is not; it says so, shows no other in its place, and comes by itself.
  await page.keyboard.press('End')
  await page.getByText('This frame is still being prepared.').waitFor()
  expect(await page.locator('[data-picture][data-frame]').count()).toBe(0)
  await page.locator(`[data-picture][data-frame="${picture.frames - 1}"]`).waitFor({ timeout: 120_000 })
  expect(await isWhite()).toBe(true)
  await page.locator('[data-preparing]').waitFor({ state: 'detached', timeout: 60_000 })
  await page.keyboard.press('Home')
  await page.locator('[data-picture][data-frame="0"]').waitFor()
  expect(await isWhite()).toBe(false)
}, 240_000)
