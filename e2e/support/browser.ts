import { chromium, type Browser } from 'playwright-core'

/** Debian's Chromium, without a screen, a GPU or the outside world. @param args - What else it is started with */
export function launch(args: readonly string[] = []): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env['YODEL_CHROMIUM'] ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--autoplay-policy=no-user-gesture-required',
      ...args,
    ],
  })
}
