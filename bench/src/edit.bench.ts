// Editing a reel of 5,000 sounds: the computation of a step, a drag from the pointer to the paint, and the server with ten who edit at once.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import {
  apply,
  checkChange,
  documentOf,
  expectOk,
  invert,
  moveClips,
  planReel,
  recordsOf,
  shapeClips,
  trimClip,
  type Clip,
  type ReelRecord,
  type ReelState,
} from '@yodel/core'
import { launch } from '../../e2e/support/browser.js'
import { realServer } from '../../e2e/support/server.js'
import { crowded, emptyReel, makeNoises, openCrowd } from './crowd.js'
import { percentile, report } from './report.js'

const CLIENTS = 10
const EDITS = 60

const made = Array.from({ length: 12 }, (_, sound) => ({
  id: `s${sound}`,
  name: `Noise ${sound}`,
  length: 48_000 * (1 + (sound % 4)),
}))
const plain = emptyReel()
const full = documentOf([...recordsOf(plain), ...crowded(plain, made)])
const placed = [...full.clip.values()]
const steps: number[] = []
for (let round = 0; round < 400; round++) {
  const clip = placed[(round * 37) % placed.length] as Clip
  const begun = performance.now()
  const edit =
    round % 3 === 0
      ? moveClips(full, { ids: [clip.id], by: 48 })
      : round % 3 === 1
        ? shapeClips(full, { ids: [clip.id], gainBy: -1 })
        : trimClip(full, { id: clip.id, end: 'tail', to: clip.start + clip.length - 960 })
  if (edit.ok) {
    const after = expectOk(apply(full, edit.value))
    expectOk(checkChange(after, edit.value))
    planReel(after)
    expectOk(apply(after, invert(edit.value)))
  }
  if (round >= 40 && edit.ok) steps.push(performance.now() - begun)
}
report({
  name: 'edit.apply',
  value: percentile(steps, 0.95),
  unit: 'ms to compute, apply, check, lay out and invert, 95th',
})

const folder = mkdtempSync(path.join(tmpdir(), 'yodel-edit-'))
makeNoises(folder)
const server = await realServer({ demo: false, roots: folder })
const browser = await launch()
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.addInitScript({ content: 'globalThis.__name = (named) => named' })
const id = await openCrowd(server, page, folder)
const load = async (): Promise<ReelState> =>
  (await fetch(`${server.url}/api/reels/${id}`)).json() as Promise<ReelState>
const state = await load()
const doc = documentOf(state.records)
const clips = [...doc.clip.values()]

await page.goto(`${server.url}/reels/${id}`)
await page.waitForSelector('[data-clip]')
await page.waitForTimeout(2500)
await page.keyboard.press('.')
await page.keyboard.insertText('1:05:00:00')
await page.keyboard.press('Enter')
await page.waitForTimeout(1500)
const frames = await page.evaluate(async () => {
  const element = [...document.querySelectorAll<HTMLElement>('[data-clip]')].find((one) => {
    const box = one.getBoundingClientRect()
    return box.top > 160 && box.bottom < 720 && box.left > 610 && box.right < 960
  })
  if (!element) throw new Error('no sound is in sight')
  const box = element.getBoundingClientRect()
  const at = (type: string, y: number): void => {
    const event = new PointerEvent(type, {
      bubbles: true,
      clientX: box.left + 20,
      clientY: box.top + 8 + y,
      button: 0,
      pointerId: 1,
    })
    ;(type === 'pointerdown' ? element : window).dispatchEvent(event)
  }
  const said = (): string => document.querySelector('[data-drag]')?.textContent ?? ''
  // A task that is asked for within a refresh runs when that refresh has been painted.
  const painted = (): Promise<void> =>
    (
      window as unknown as { scheduler: { postTask: (task: () => void, options: object) => Promise<void> } }
    ).scheduler.postTask(() => undefined, { priority: 'user-blocking' })
  const times: number[] = []
  at('pointerdown', 0)
  // The first sixty warm up.
  for (let move = 0; move < 240; move++) {
    await new Promise(requestAnimationFrame)
    // Where a browser hands out the moves of a pointer: in the refresh that it is about to paint.
    const before = said()
    const begun = performance.now()
    at('pointermove', 4 + Math.sin(move / 9) * 40)
    for (let waited = 0; said() === before && waited < 3; waited++) await new Promise(requestAnimationFrame)
    await painted()
    // A move that ends on the same frame or mark shows nothing new.
    if (said() !== before) times.push(performance.now() - begun)
  }
  window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))
  return times.slice(60)
})
if (frames.length < 60) throw new Error(`only ${frames.length} moves showed something`)
report({
  name: 'edit.frame',
  value: percentile(frames, 0.95),
  unit: 'ms from a move of the pointer to its paint, 95th',
})
await browser.close()

// Each of ten moves sounds of its own up and down, one after the other.
let seq = (await load()).seq
const acks: number[] = []
await Promise.all(
  Array.from({ length: CLIENTS }, async (_, client) => {
    const own = clips.filter((_, index) => index % CLIENTS === client)
    for (let round = 0; round < EDITS; round++) {
      const from = own[round % 20] as Clip
      const to: Clip = { ...from, gain: from.gain - 1 }
      own[round % 20] = to
      const change = {
        label: 'Gain',
        added: [],
        updated: [[from, to]] as [ReelRecord, ReelRecord][],
        removed: [],
      }
      const body = JSON.stringify({
        changeId: crypto.randomUUID(),
        base: seq,
        role: 'do',
        target: null,
        change,
      })
      const begun = performance.now()
      const response = await fetch(`${server.url}/api/reels/${id}/changes`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      })
      const answer = (await response.json()) as { seq: number }
      if (!response.ok) throw new Error(JSON.stringify(answer))
      if (round >= 3) acks.push(performance.now() - begun)
      seq = Math.max(seq, answer.seq)
      // People think between two edits.
      await new Promise((resolve) => setTimeout(resolve, 150 + Math.random() * 200))
    }
  }),
)
report({
  name: 'edit.ack',
  value: percentile(acks, 0.95),
  unit: `ms until the server has a change, ${CLIENTS} editing at once, 95th`,
})
if (recordsOf(documentOf((await load()).records)).length !== recordsOf(doc).length)
  throw new Error('records were lost')
await server.close()
rmSync(folder, { recursive: true })
