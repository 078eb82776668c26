import { panGains } from '@yodel/core'
import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { launch } from './support/browser.js'

let browser: Browser
beforeAll(async () => {
  browser = await launch()
})
afterAll(() => browser?.close())

const PANS = [-1, -0.73, -0.5, -0.1, 0, 0.2, 0.5, 0.9, 1]

// Checked against another's work: the browser's own StereoPannerNode, by which the law was published (W3C Web Audio API).
it.each([1, 2] as const)(
  'pans %i channels as the browser’s own panner does, to a millionth',
  async (channels) => {
    const page = await browser.newPage()
    const panned = await page.evaluate(
      async ({ channels, pans }) => {
        const out: [number, number][] = []
        for (const pan of pans) {
          const context = new OfflineAudioContext(2, 256, 48_000)
          const buffer = context.createBuffer(channels, 256, 48_000)
          for (let channel = 0; channel < channels; channel++)
            buffer.getChannelData(channel).fill(channel === 0 ? 0.5 : -0.25)
          const source = new AudioBufferSourceNode(context, { buffer })
          source.connect(new StereoPannerNode(context, { pan })).connect(context.destination)
          source.start()
          const rendered = await context.startRendering()
          out.push([rendered.getChannelData(0)[200] as number, rendered.getChannelData(1)[200] as number])
        }
        return out
      },
      { channels, pans: PANS },
    )
    for (const [index, pan] of PANS.entries()) {
      const { ll, lr, rl, rr } = panGains(pan, channels)
      const [left, right] = channels === 1 ? [0.5, 0] : [0.5, -0.25]
      expect(panned[index]).toEqual([
        expect.closeTo(left * ll + right * rl, 6),
        expect.closeTo(left * lr + right * rr, 6),
      ])
    }
    await page.close()
  },
)
