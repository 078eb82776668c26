import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll } from 'vitest'
import { launch } from './browser.js'
import { realServer, type RealServer } from './server.js'

/** A Yodel in which nothing is yet, with a folder that it may read, a browser and a page, for the tests of a file. */
export function onEmpty(): {
  readonly server: RealServer
  readonly browser: Browser
  readonly page: Page
  readonly folder: string
  /** Makes a file in the folder with ffmpeg. @returns its path */
  readonly make: (name: string, ...args: string[]) => string
} {
  const folder = mkdtempSync(path.join(tmpdir(), 'yodel-empty-'))
  const make = (name: string, ...args: string[]): string => {
    const file = path.join(folder, name)
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...args, file])
    return file
  }
  const stage = { folder, make } as {
    server: RealServer
    browser: Browser
    page: Page
    folder: string
    make: typeof make
  }
  beforeAll(async () => {
    stage.server = await realServer({ demo: false, roots: folder })
    stage.browser = await launch()
    const context = await stage.browser.newContext({ viewport: { width: 1280, height: 800 } })
    stage.page = await context.newPage()
  }, 60_000)
  afterAll(async () => {
    await stage.browser?.close()
    await stage.server?.close()
    rmSync(folder, { recursive: true })
  })
  return stage
}
