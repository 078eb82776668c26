import { launch } from './support/browser.js'
import { realServer } from './support/server.js'
import { Editor } from './support/Editor.js'
const server = await realServer({ demo: true })
const browser = await launch()
try {
  const editor = await Editor.open(browser, server.url, 'demo-reel-1')
  const { page } = editor
  page.on('pageerror', (e) => console.log('PAGEERROR', e.message))
  await page.click('nav >> text=Turnover')
  await page.waitForSelector('[data-sheet-page]', { timeout: 60000 })
  await page.waitForTimeout(1500)
  await page.screenshot({ path: '/tmp/look/t1.png' })
  const pdf = Buffer.from(await (await fetch(`${server.url}/api/reels/demo-reel-1/mix.pdf`)).arrayBuffer())
  ;(await import('node:fs')).writeFileSync('/tmp/look/mix.pdf', pdf)
  const pdf2 = Buffer.from(
    await (
      await fetch(
        `${server.url}/api/reels/demo-reel-1/mix.pdf?way=scale&seconds=30&size=A3&turned=1&tracks=10`,
      )
    ).arrayBuffer(),
  )
  ;(await import('node:fs')).writeFileSync('/tmp/look/mix2.pdf', pdf2)
  // accept/mend what stops
  await page.emulateMedia({ colorScheme: 'dark' })
  console.log(await page.locator('[data-hold]').textContent())
  const t0 = Date.now()
  await page.getByLabel('Name of this turnover').fill('Pre-dub')
  const button = page.getByRole('button', { name: /Hand over/ })
  console.log(await button.textContent(), await button.isDisabled())
  if (!(await button.isDisabled())) {
    await button.click()
    await page.waitForSelector('[data-turnover="1"]', { timeout: 120000 })
    console.log('made in', Date.now() - t0)
    await page.locator('[data-turnover="1"]').scrollIntoViewIfNeeded()
    await page
      .locator('[data-turnover="1"]')
      .getByRole('button', { name: /files$/ })
      .click()
    await page.waitForTimeout(800)
    await page.screenshot({ path: '/tmp/look/t2.png' })
    const kept = (await (await fetch(`${server.url}/api/reels/demo-reel-1/turnovers`)).json()) as any[]
    console.log(JSON.stringify(kept[0].measured).slice(0, 300), kept[0].files, kept[0].size)
    const full = (await (await fetch(`${server.url}/api/turnovers/${kept[0].id}`)).json()) as any
    console.log(
      full.files
        .filter((f: any) => f.kind !== 'sound')
        .map((f: any) => `${f.path} ${f.size}`)
        .join('\n'),
    )
    const rep = Buffer.from(
      await (await fetch(`${server.url}/api/turnovers/${kept[0].id}/files/report.pdf`)).arrayBuffer(),
    )
    ;(await import('node:fs')).writeFileSync('/tmp/look/report.pdf', rep)
  }
} finally {
  await browser.close()
  await server.close()
}
