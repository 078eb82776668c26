import { chromium, type Browser } from 'playwright-core'

/** Debian's Chromium. */
export const CHROMIUM = process.env['YODEL_CHROMIUM'] ?? '/usr/bin/chromium'

/** Without a screen, a GPU or the outside world. */
export const FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
]

/** Starts Chromium. @param args - What else it is started with */
export const launch = (args: readonly string[] = []): Promise<Browser> =>
  chromium.launch({ executablePath: CHROMIUM, args: [...FLAGS, ...args] })
