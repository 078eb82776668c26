import type { Browser } from 'playwright-core'
import { afterAll, beforeAll } from 'vitest'
import { launch } from './browser.js'
import { realServer, type RealServer } from './server.js'

/** The demo on a server of its own, and a browser, for the tests of a file: there before the first of them, gone after the last. */
export function onDemo(): { readonly server: RealServer; readonly browser: Browser } {
  const stage = {} as { server: RealServer; browser: Browser }
  beforeAll(async () => {
    stage.server = await realServer({ demo: true })
    stage.browser = await launch()
  }, 600_000)
  afterAll(async () => {
    await stage.browser?.close()
    await stage.server?.close()
  })
  return stage
}
