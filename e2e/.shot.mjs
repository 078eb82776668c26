import { chromium } from 'playwright-core'
const [, , url, out, ...acts] = process.argv
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--autoplay-policy=no-user-gesture-required'] })
const [w, h] = (process.env.SIZE ?? '1280x800').split('x').map(Number)
const page = await (await browser.newContext({ viewport: { width: w, height: h }, colorScheme: process.env.NIGHT ? 'dark' : 'light' })).newPage()
page.on('console', (m) => {
  if (m.type() === 'error') console.log('console:', m.text())
})
page.on('pageerror', (e) => console.log('pageerror:', e.message))
await page.goto('http://127.0.0.1:4750' + url)
if (/^\/reels\/[^/]+$/.test(url))
  await page.waitForFunction(() => Number(document.querySelector('[data-picture]')?.dataset.frame ?? -1) >= 0, null, { timeout: 8000 }).catch(() => console.log('no picture'))
await page.waitForTimeout(700)
for (const act of acts) {
  const at = act.indexOf('=')
  const [what, arg] = [act.slice(0, at), act.slice(at + 1)]
  if (what === 'key') await page.keyboard.press(arg)
  else if (what === 'type') await page.keyboard.type(arg, { delay: 10 })
  else if (what === 'click') await page.click(arg, { timeout: 4000 }).catch((e) => console.log(e.message.split('\n')[0]))
  else if (what === 'fill') {
    const [s, v] = arg.split('|')
    await page.fill(s, v)
  } else if (what === 'file') {
    const [s, v] = arg.split('|')
    await page.setInputFiles(s, v)
  } else if (what === 'select') {
    const [s, v] = arg.split('|')
    await page.selectOption(s, v)
  } else if (what === 'wait') await page.waitForTimeout(Number(arg))
  else if (what === 'shot') await page.screenshot({ path: arg })
  else if (what === 'eval') console.log(JSON.stringify(await page.evaluate(arg)))
  await page.waitForTimeout(120)
}
await page.waitForTimeout(500)
await page.screenshot({ path: out })
await browser.close()
