import { execFile } from 'node:child_process'
import path from 'node:path'
import { promisify } from 'node:util'
import {
  addCut,
  documentOf,
  expectOk,
  FRAME_RATES,
  type FrameRateId,
  type Picture,
  type ReelState,
} from '@yodel/core'
import type { Page } from 'playwright-core'
import type { RealServer } from '../../e2e/support/server.js'

/** Enough for 20 minutes at 24 fps; squares of so many pixels. */
const BITS = 15
const SQUARE = 40

/** Makes a movie whose frames carry their number as a row of black and white squares, with a tick of sound each second. */
export async function numberedMovie(folder: string, rate: FrameRateId, seconds: number): Promise<string> {
  const { num, den } = FRAME_RATES[rate]
  const file = path.join(folder, `numbered-${rate}-${seconds}.mp4`)
  const bits = Array.from(
    { length: BITS },
    (_, bit) =>
      `drawbox=x=${bit * SQUARE}:y=100:w=${SQUARE}:h=160:color=white:t=fill:enable='gte(mod(n,${2 ** (bit + 1)}),${2 ** bit})'`,
  )
  // Without holding up this process: connections that stand open would go stale.
  await promisify(execFile)('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-f',
    'lavfi',
    '-i',
    `color=black:size=640x360:rate=${num}/${den}:duration=${seconds}`,
    '-f',
    'lavfi',
    '-i',
    `sine=frequency=220:beep_factor=4:duration=${seconds}`,
    '-vf',
    bits.join(','),
    '-c:v',
    'libx264',
    '-preset',
    'ultrafast',
    '-c:a',
    'aac',
    file,
  ])
  return file
}

/** Gives pages the function `readNumber`, which reads the number off what is on the canvas at that moment. */
export async function teachReading(page: Page): Promise<void> {
  // As text: functions that tsx has compiled carry a helper that pages don't have, which is given to them here, too.
  await page.addInitScript({
    content: `globalThis.__name = (named) => named
    window.readNumber = () => {
      const canvas = document.querySelector('[data-picture]')
      const pixels = canvas.getContext('2d').getImageData(0, 180, 640, 1).data
      let number = 0
      for (let bit = 0; bit < ${BITS}; bit++) if (pixels[(bit * ${SQUARE} + ${SQUARE / 2}) * 4] > 128) number += 2 ** bit
      return number
    }`,
  })
}

declare global {
  interface Window {
    readNumber: () => number
    arrived: Promise<number>
    yodelProbe: { audibleAt: (now: number) => number | null; misses: () => number }
  }
}

/** Makes a reel of a rate with a movie as its picture, and opens it in a page. */
export async function openReelWith(
  server: RealServer,
  page: Page,
  rate: FrameRateId,
  movie: string,
): Promise<Picture> {
  const post = async (url: string, body: object): Promise<Record<string, never>> => {
    const answer = await fetch(server.url + url, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
    if (!answer.ok) throw new Error(`${url}: ${answer.status} ${await answer.text()}`)
    return (await answer.json()) as Record<string, never>
  }
  const { id } = (await post('/api/reels', {
    showId: null,
    showName: 'Bench',
    name: rate,
    rate,
    firstTimecode: '01:00:00:00',
    lengthSeconds: 1260,
  })) as unknown as { id: string }
  const picture = (await post('/api/pictures/pick', { path: movie })) as unknown as Picture
  for (let state = 'waiting'; state !== 'ready';) {
    await new Promise((resolve) => setTimeout(resolve, 300))
    const now = (await (await fetch(`${server.url}/api/pictures/${picture.id}`)).json()) as Picture
    if (now.state === 'failed') throw new Error(now.message)
    state = now.state
  }
  const { records } = (await (await fetch(`${server.url}/api/reels/${id}`)).json()) as ReelState
  const cut = { id: 'cut', pictureId: picture.id, name: picture.name, length: picture.frames }
  const change = expectOk(addCut(documentOf(records), cut))
  await post(`/api/reels/${id}/changes`, {
    changeId: crypto.randomUUID(),
    base: 1,
    role: 'do',
    target: null,
    change,
  })
  await page.goto(`${server.url}/reels/${id}`)
  await page.waitForFunction(
    () =>
      Number((document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] ?? -1) >= 0,
    null,
    { timeout: 60_000 },
  )
  return picture
}
