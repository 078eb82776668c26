// Trying candidates while the moment goes round: how soon the next one sounds after its key, and whether anything else is disturbed.
// A tone lies at the left, the candidates are tones at the right; what leaves the audio thread is recorded and looked at sample by sample.
import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import {
  addTrack,
  apply,
  clipAtSample,
  documentOf,
  expectOk,
  recordsOf,
  spotCue,
  type ReelRecord,
  type ReelState,
  type Sound,
} from '@yodel/core'
import { launch } from '../../e2e/support/browser.js'
import { realServer } from '../../e2e/support/server.js'
import { numberedMovie, openReelWith } from './movies.js'
import { percentile, report } from './report.js'

const CANDIDATES = 40
/** A period of 100 samples: it goes through every loop of whole frames at 24 fps without a step. */
const BED_HZ = 480
const hzOf = (candidate: number): number => (candidate % 2 ? 3000 : 1000)

/** What the page is given beside the application: a recorder of what leaves the audio thread, and of when keys were pressed. */
interface Recording {
  beginRecording(): void
  /** Both sides as 32-bit floats in base64; context times, in seconds, that left the loudspeaker when an arrow went down. */
  endRecording(): { firstFrame: number; sides: string[]; pressed: number[]; misses: number }
}
const RECORDER = `
  globalThis.__name = (named) => named
  const module = 'registerProcessor("recorder", class extends AudioWorkletProcessor { process([input]) { if (input[0]) this.port.postMessage([currentFrame, input[0].slice(), (input[1] ?? input[0]).slice()]); return true } })'
  const connect = AudioNode.prototype.connect
  let blocks = null
  let context = null
  let recorder = null
  const pressed = []
  AudioNode.prototype.connect = function (to, ...rest) {
    if (to instanceof AudioDestinationNode && this instanceof AudioWorkletNode) {
      context = this.context
      // One for all: the reel and listening have an engine each.
      recorder ??= context.audioWorklet.addModule(URL.createObjectURL(new Blob([module], { type: 'text/javascript' }))).then(() => {
        const node = new AudioWorkletNode(context, 'recorder', { numberOfOutputs: 0, channelCount: 2, channelCountMode: 'explicit' })
        node.port.onmessage = ({ data }) => blocks?.push(data)
        return node
      })
      recorder.then((node) => connect.call(this, node))
    }
    return connect.call(this, to, ...rest)
  }
  window.beginRecording = () => void (blocks = [])
  window.addEventListener('keydown', (event) => {
    if (!blocks || event.key !== 'ArrowDown') return
    const stamp = context.getOutputTimestamp()
    pressed.push(stamp.contextTime + (performance.now() - stamp.performanceTime) / 1000)
  }, true)
  window.endRecording = () => {
    const side = (index) => {
      const all = new Float32Array(blocks.length * 128)
      blocks.forEach((block, at) => all.set(block[index], at * 128))
      const bytes = new Uint8Array(all.buffer)
      let text = ''
      for (let at = 0; at < bytes.length; at += 32768) text += String.fromCharCode(...bytes.subarray(at, at + 32768))
      return btoa(text)
    }
    if (blocks.some((block, at) => block[0] !== blocks[0][0] + at * 128)) throw new Error('the recording has holes')
    return { firstFrame: blocks[0][0], sides: [side(1), side(2)], pressed, misses: window.yodelProbe.misses() }
  }`

const folder = mkdtempSync(path.join(tmpdir(), 'yodel-try-'))
mkdirSync(path.join(folder, 'shelf'))
const tone = (name: string, hz: number, seconds: number): void =>
  void execFileSync('sox', [
    '-D',
    '-n',
    '-r',
    '48000',
    '-b',
    '24',
    '-c',
    '1',
    path.join(folder, 'shelf', `${name}.wav`),
    'synth',
    String(seconds),
    'sine',
    String(hz),
    'vol',
    '0.25',
  ])
tone('bed', BED_HZ, 40)
for (let i = 0; i < CANDIDATES; i++) tone(`whistle ${String(i).padStart(2, '0')}`, hzOf(i), 8)

const server = await realServer({ demo: false, roots: folder })
const browser = await launch()
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, bypassCSP: true })
const page = await context.newPage()
await page.addInitScript({ content: RECORDER })
const post = (url: string, body: object): Promise<Response> =>
  fetch(server.url + url, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  })
await post('/api/shelves', { path: path.join(folder, 'shelf') })
let sounds: Sound[] = []
while (sounds.length <= CANDIDATES || sounds.some((sound) => !sound.measured)) {
  await new Promise((resolve) => setTimeout(resolve, 500))
  sounds = []
  for (let cursor = ''; ;) {
    const got = (await (
      await fetch(`${server.url}/api/sounds?sort=name&down=0${cursor && `&cursor=${cursor}`}`)
    ).json()) as { sounds: Sound[]; next: string | null }
    sounds.push(...got.sounds)
    if (!got.next) break
    cursor = encodeURIComponent(got.next)
  }
}
await openReelWith(server, page, '24', await numberedMovie(folder, '24', 40))
const id = page.url().split('/').at(-1) ?? ''
const state = (await (await fetch(`${server.url}/api/reels/${id}`)).json()) as ReelState
const empty = documentOf(state.records)
const bed = sounds.find((sound) => sound.name === 'bed') as Sound
let doc = expectOk(apply(empty, expectOk(addTrack(empty, { id: 'left', category: 'BG' }))))
doc = expectOk(apply(doc, expectOk(addTrack(doc, { id: 'right', category: 'FX' }))))
doc = expectOk(
  apply(doc, expectOk(spotCue(doc, { id: 'cue', category: 'FX', in: 240, out: 400, words: 'whistle' }))),
)
const known = new Set(recordsOf(empty).map((record) => record.id))
const laid = clipAtSample({
  id: 'bed',
  trackId: 'left',
  cueId: null,
  at: 0,
  sound: { id: bed.id, name: 'bed', recorded: bed.length, sync: 0 },
})
const added = [
  ...recordsOf(doc)
    .filter((one) => !known.has(one.id))
    .map((one): ReelRecord => (one.kind === 'track' ? { ...one, pan: one.id === 'left' ? -1 : 1 } : one)),
  laid,
]
await post(`/api/reels/${id}/changes`, {
  changeId: crypto.randomUUID(),
  base: state.seq,
  role: 'do',
  target: null,
  change: { label: 'Bed', added, updated: [], removed: [] },
})

/** A busy machine can leave holes in what is recorded; then nothing is said of the sound, and the take is made again. */
const TAKES = 5

/** Tries one candidate after the other from the top, while the moment goes round. */
async function take(): Promise<Awaited<ReturnType<Recording['endRecording']>>> {
  await page.goto(`${server.url}/reels/${id}`)
  await page.waitForSelector('[data-cue]')
  await page.waitForTimeout(1500)
  await page.keyboard.press('g')
  await page.keyboard.press('PageDown')
  await page.keyboard.press('/')
  await page.keyboard.insertText('whistle')
  await page.waitForSelector('[data-shown="whistle"]')
  await page.selectOption('[aria-label="Order"]', 'name')
  await page.waitForTimeout(800)
  await page.focus('[data-search]')
  await page.keyboard.press('ArrowDown')
  await page.waitForTimeout(600)
  await page.keyboard.press('Enter')
  await page.waitForTimeout(2500)
  await page.evaluate(() => (window as unknown as Recording).beginRecording())
  const order = await page.evaluate(() =>
    [...document.querySelectorAll('[data-sound]')].slice(0, 3).map((row) => row.textContent?.slice(0, 10)),
  )
  if (!order[0]?.startsWith('whistle 00') || !order[1]?.startsWith('whistle 01'))
    throw new Error(`candidates stand as ${order.join(', ')}`)

  for (let candidate = 1; candidate < CANDIDATES; candidate++) {
    // At a moment at which candidates sound: not in the part of the loop before them.
    await page.waitForFunction(() => {
      const { yodelProbe } = window as unknown as {
        yodelProbe: { audibleAt: (now: number) => number | null }
      }
      const at = yodelProbe.audibleAt(performance.now())
      return at !== null && at > 240 * 2000 + 24_000 && at < 240 * 2000 + 160_000
    })
    await page.keyboard.press('ArrowDown')
    await page.waitForTimeout(500)
  }
  return page.evaluate(() => (window as unknown as Recording).endRecording())
}

let takes = 0
let heard: Awaited<ReturnType<typeof take>> | null = null
while (!heard) {
  takes++
  heard = await take().catch((error: unknown) => {
    if (takes === TAKES || !String(error).includes('the recording has holes')) throw error
    return null
  })
}
await browser.close()
await server.close()
rmSync(folder, { recursive: true })

const [left, right] = heard.sides.map(
  (side) => new Float32Array(Uint8Array.from(Buffer.from(side, 'base64')).buffer),
) as [Float32Array, Float32Array]
const delays = heard.pressed.map((pressed, index) => {
  const from = Math.round(pressed * 48_000) - heard.firstFrame
  return ((firstOf(right, hzOf(index + 1), from) - from) * 1000) / 48_000
})
if (delays.length < CANDIDATES - 1) throw new Error(`only ${delays.length} keys were seen`)
report({
  name: 'try.first-p50',
  value: percentile(delays, 0.5),
  unit: 'ms from the key to the next candidate at the loudspeaker, half of them',
})
report({ name: 'try.first', value: percentile(delays, 0.95), unit: 'ms, 95th' })
report({
  name: 'try.gaps',
  value: gapsIn(left),
  unit: `samples out of line in ${(left.length / 48_000).toFixed(0)} s of the sound beside`,
})
report({ name: 'try.takes', value: takes, unit: 'takes until one was recorded without a hole' })
report({ name: 'try.misses', value: heard.misses, unit: 'blocks that lacked their sound' })

/** Where a tone first stands at half of its level within two milliseconds, from a place on. */
function firstOf(x: Float32Array, hz: number, from: number): number {
  const window = 96
  for (let end = from + window; end < Math.min(x.length, from + 48_000); end += 12) {
    let [re, im] = [0, 0]
    for (let i = end - window; i < end; i++) {
      re += (x[i] as number) * Math.cos((2 * Math.PI * hz * i) / 48_000)
      im += (x[i] as number) * Math.sin((2 * Math.PI * hz * i) / 48_000)
    }
    if ((2 / window) * Math.hypot(re, im) > 0.125) return end
  }
  throw new Error(`a tone of ${hz} Hz did not come within a second`)
}

/** Samples of the bed that do not follow from the two before them, as those of a tone do: x(n+1) = 2 cos(w) x(n) - x(n-1). */
function gapsIn(x: Float32Array): number {
  const turn = 2 * Math.cos((2 * Math.PI * BED_HZ) / 48_000)
  let gaps = 0
  for (let i = 1; i + 1 < x.length; i++)
    if (Math.abs((x[i + 1] as number) + (x[i - 1] as number) - turn * (x[i] as number)) > 1e-4) gaps++
  return gaps
}
