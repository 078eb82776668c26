import { execFileSync } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { launch } from './support/browser.js'
import { realServer } from './support/server.js'
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-look-'))
const server = await realServer({ demo: false, roots: folder })
const browser = await launch()
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
const file = path.join(folder, 'reel one.mov')
const tones = [0, 200, 300, 400, 500, 600, 700, 800]
execFileSync('ffmpeg', ['-v','error','-y','-f','lavfi','-i','testsrc=size=320x180:rate=25:duration=30', ...tones.flatMap((hz) => ['-f', 'lavfi', '-i', hz===0?'aevalsrc=0:s=48000:d=30':`sine=${hz}:r=48000:d=30`]), '-map','0',...tones.flatMap((_, i) => ['-map', String(i + 1)]), ...['Dialogue boom','Dialogue lavalier','Temp FX','Temp BG','Music L','Music R','','' ].flatMap((t,i)=>['-metadata:s:a:'+i,'title='+t,'-metadata:s:a:'+i,'handler_name='+t]), '-c:v','libx264','-c:a','pcm_s16le','-timecode','01:00:00:10', file])
await page.goto(server.url)
await page.getByLabel('Show', { exact: true }).fill('As sent')
await page.getByLabel('Frame rate').selectOption('25')
await page.getByRole('button', { name: 'Make the reel' }).click()
await page.getByText('No picture yet').waitFor()
await page.setInputFiles('input[type=file]', file)
await page.locator('[data-picture][data-frame="0"]').waitFor({timeout:60000})
await page.waitForTimeout(1500)
await page.screenshot({ path: '/tmp/look/g1.png' })
await page.getByRole('button', { name: 'all 8 tracks' }).click()
await page.waitForTimeout(400)
await page.screenshot({ path: '/tmp/look/g2.png' })
await page.keyboard.press('Escape')
await page.click('nav >> text=Reel')
await page.waitForTimeout(800)
await page.screenshot({ path: '/tmp/look/g3.png' })
await browser.close(); await server.close()
