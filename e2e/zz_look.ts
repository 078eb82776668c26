import { launch } from './support/browser.js'
import { Editor } from './support/Editor.js'
const b = await launch()
const e = await Editor.open(b, 'http://127.0.0.1:4750', 'demo-reel-1')
const page = e.page
page.on('pageerror', (x) => console.log('PAGEERROR', x.message))
page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text()))
const keys = async (...acts: string[]) => {
  for (const a of acts) {
    if (a.startsWith('=')) await page.keyboard.insertText(a.slice(1))
    else await page.keyboard.press(a)
    await page.waitForTimeout(150)
  }
}
await (await import(process.argv[2]!)).default({ page, e, keys, shot: (n: string) => page.screenshot({ path: `/tmp/x/${n}.png` }) })
await b.close()
