// 100 variations of the demo's plan of six layers: how soon they are listed and the first one is heard (at the audio output), how fast
// they are written as recordings, and whether the same seeds give the same bytes: on the server twice, and in the browser.
import { createHash } from 'node:crypto'
import { readFileSync, readdirSync, rmSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { setTimeout } from 'node:timers/promises'
import {
  expectOk,
  variationsFrom,
  wavLayout,
  type Job,
  type JobResult,
  type Shelf,
  type StackPlan,
  type Variation,
} from '@yodel/core'
import type * as Core from '@yodel/core'
import { build } from 'vite'
import { launch } from '../../e2e/support/browser.js'
import { realServer } from '../../e2e/support/server.js'
import { report } from './report.js'

const COUNT = 100
const IN_BROWSER = 12
const ROUNDS = 5
const REEL = 'demo-reel-1'
const CORE = fileURLToPath(new URL('../../packages/core/src/index.ts', import.meta.url))

/** Says when something louder than -60 dBFS goes to the loudspeaker. */
const RECORDER = `
  globalThis.__name = (named) => named
  const module = 'registerProcessor("loud", class extends AudioWorkletProcessor { process([input]) { if (input[0]?.some((one) => Math.abs(one) > 0.001)) this.port.postMessage(0); return true } })'
  const connect = AudioNode.prototype.connect
  const taps = new WeakMap()
  window.heardAt = null
  AudioNode.prototype.connect = function (to, ...rest) {
    if (to instanceof AudioDestinationNode) {
      const { context } = this
      if (!taps.has(context)) taps.set(context, context.audioWorklet.addModule(URL.createObjectURL(new Blob([module], { type: 'text/javascript' }))))
      taps.get(context).then(() => {
        const node = new AudioWorkletNode(context, 'loud', { numberOfOutputs: 0 })
        node.port.onmessage = () => { window.heardAt ??= performance.now() }
        connect.call(this, node)
      })
    }
    return connect.call(this, to, ...rest)
  }`

interface HeardWindow {
  heardAt: number | null
}

const server = await realServer({ demo: true })
const browser = await launch()
const ask = async <T>(url: string, body?: object): Promise<T> => {
  const sent = { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
  return (await (await fetch(server.url + url, body ? sent : {})).json()) as T
}

const firsts: number[] = []
for (let round = 0; round < ROUNDS; round++) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, bypassCSP: true })
  const page = await context.newPage()
  await page.addInitScript({ content: RECORDER })
  await page.goto(`${server.url}/reels/${REEL}`)
  await page.waitForFunction(
    () =>
      Number((document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] ?? -1) >= 0,
  )
  await page.waitForLoadState('networkidle')
  const begun = await page.evaluate(() => performance.now())
  await page.keyboard.press('Shift+G')
  await page.locator('[aria-label="Variations"] [role=option]').first().click()
  await page.waitForFunction(() => (window as unknown as HeardWindow).heardAt !== null)
  firsts.push((await page.evaluate(() => (window as unknown as HeardWindow).heardAt ?? 0)) - begun)
  await context.close()
}

const [plan] = await ask<StackPlan[]>(`/api/reels/${REEL}/plans`)
if (!plan) throw new Error('the demo has no plan')
const variations = variationsFrom(1, COUNT)

/** Writes all of them. @returns Seconds of sound, and seconds it took. */
async function write(those: readonly Variation[]): Promise<{ sound: number; took: number }> {
  const begun = performance.now()
  const { jobId } = await ask<{ jobId: string }>(`/api/reels/${REEL}/plans/${plan?.id}/write`, {
    ...{ variations: those, through: null },
  })
  for (;;) {
    const job = await ask<Job>(`/api/jobs/${jobId}`)
    if (job.state === 'done')
      return {
        sound: (job.result as JobResult<'stacks'>).seconds,
        took: (performance.now() - begun) / 1000,
      }
    if (job.state === 'failed') throw new Error(job.message)
    await setTimeout(50)
  }
}
function files(): Map<string, Buffer> {
  return new Map(readdirSync(folder).map((file) => [file, readFileSync(path.join(folder, file))]))
}

// Once before, so that recordings are decoded: as they are when somebody has heard the variations.
await write(variations)
const made = (await ask<Shelf[]>('/api/shelves')).find(({ name }) => name.startsWith('Made here'))
const folder = path.join(made?.root ?? '', 'Variations', 'Engine-comes-near')
const first = files()
rmSync(folder, { recursive: true })
const { sound, took } = await write(variations)
const again = files()
const sameAgain = [...first].filter(([file, bytes]) => again.get(file)?.equals(bytes)).length

const bundle = await build({
  ...{ logLevel: 'silent', configFile: false },
  build: { write: false, minify: false, lib: { entry: CORE, formats: ['iife'], name: 'core' } },
})
const code = (Array.isArray(bundle) ? bundle : [bundle]).flatMap((one) =>
  'output' in one ? one.output : [],
)[0]
const page = await browser.newPage({ bypassCSP: true })
await page.goto(server.url)
await page.addScriptTag({ content: 'globalThis.__name = (named) => named' })
await page.addScriptTag({ content: code && 'code' in code ? code.code : '' })
const rendered = await page.evaluate(
  async ({ plan, those, reel }) => {
    const core = (globalThis as unknown as { core: typeof Core }).core
    const found = (await (await fetch(`/api/reels/${reel}/plans/${plan.id}/found`)).json()) as never
    const pcm = new Map<string, (Float32Array[] | null)[]>()
    const load = async (id: string, length: number): Promise<void> => {
      if (pcm.has(id)) return
      const chunks: Float32Array[][] = []
      for (let at = 0; at * core.PCM_CHUNK < length; at++) {
        const answer = await fetch(`/api/media/${id}/pcm/${at}`)
        const both = new Float32Array(await answer.arrayBuffer())
        const channels = Number(answer.headers.get('x-channels'))
        chunks.push(
          Array.from({ length: channels }, (_, side) => both.filter((_, index) => index % channels === side)),
        )
      }
      pcm.set(id, chunks)
    }
    const sums: string[] = []
    for (const one of those) {
      const layers = core.shakeStack(plan, one, found)
      for (const { sound } of layers) await load(sound.id, Math.ceil(sound.recorded * (sound.speed ?? 1)))
      const { left, right } = core.renderStack(layers, (id, at) => {
        const index = Math.floor(at / core.PCM_CHUNK)
        const channels = pcm.get(id)?.[index]
        return channels && at < index * core.PCM_CHUNK + (channels[0]?.length ?? 0)
          ? { from: index * core.PCM_CHUNK, channels: channels as [Float32Array] }
          : null
      })
      const { bytes } = core.packStereo24(left, right, left.length)
      const sum = await crypto.subtle.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>)
      sums.push([...new Uint8Array(sum)].map((byte) => byte.toString(16).padStart(2, '0')).join(''))
    }
    return sums
  },
  { plan, those: variations.slice(0, IN_BROWSER), reel: REEL },
)
const sameThere = rendered.filter((sum, index) => {
  const file = again.get(`Engine-comes-near-${variations[index]?.seed}.wav`)
  if (!file) return false
  const { at, size } = expectOk(wavLayout(file))
  return (
    createHash('sha256')
      .update(file.subarray(at, at + size))
      .digest('hex') === sum
  )
}).length
await browser.close()
await server.close()
firsts.sort((a, b) => a - b)
report({
  name: 'stacks.first-heard',
  value: firsts.at(-1) ?? NaN,
  unit: `ms, the longest of ${ROUNDS} (at most 2000)`,
})
report({ name: 'stacks.written', value: sound / took, unit: 'x real time (at least 20)' })
report({ name: 'stacks.same-again', value: (100 * sameAgain) / COUNT, unit: '% of the files, to the byte' })
report({
  name: 'stacks.same-in-browser',
  value: (100 * sameThere) / IN_BROWSER,
  unit: '% of the files’ samples',
})
