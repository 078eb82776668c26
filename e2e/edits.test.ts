import { execFileSync } from 'node:child_process'
import {
  frames,
  frameToSample,
  FRAME_RATES,
  gainFromDb,
  PCM_CHUNK,
  rideOf,
  rideValue,
  ridesOf,
  syncPlace,
  tracksInOrder,
  type Clip,
  type ReelDocument,
} from '@yodel/core'
import { catalogue, EVENTS, LEADER } from '@yodel/demo'
import { describe, expect, it } from 'vitest'
import { bounced } from './support/bounce.js'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'
import { emptyReel } from './support/reels.js'

const DEMO = 'demo-reel-1'
const FRAME = 2000
const stage = onDemo()
/** Where the gate stands on a Sheet so tall: two fifths of the way below its heads. */
const gateOf = (tall: number): number => 66 + (tall - 66) * 0.4

const timecode = (frame: number): string => {
  const at = frame - LEADER
  const two = (value: number): string => String(value).padStart(2, '0')
  return `1:${two(Math.floor(at / 1440))}:${two(Math.floor(at / 24) % 60)}:${two(at % 24)}`
}
const clipsOf = (doc: ReelDocument): Clip[] =>
  [...doc.clip.values()].sort((a, b) => syncPlace(a) - syncPlace(b))

const search = (editor: Editor, text: string): Promise<void> => editor.choosesFirst(text)

describe('editing on the Sheet', () => {
  it('lays the steps of one long take on an actor who walks at another pace, each within half a frame', async () => {
    const editor = await Editor.open(
      stage.browser,
      stage.server.url,
      await emptyReel(stage.server.url, 'Steps'),
    )
    const steps = EVENTS.filter((event) => event.what.includes('step'))
      .slice(0, 6)
      .map((event) => event.frame)
    for (const frame of steps) {
      await editor.goTo(timecode(frame))
      await editor.press('2')
      await editor.type('step')
      await editor.press('Enter')
    }
    await search(editor, 'walk gravel forty')
    const cues = [...(await editor.document()).cue.values()].sort((a, b) => a.in - b.in)
    await editor.page.click(`[data-cue="${cues[0]!.id}"]`)
    await editor.press('h')
    await editor.page.waitForFunction(
      (count) => document.querySelectorAll('[data-clip]').length >= count,
      steps.length,
    )
    const laid = clipsOf(await editor.document())
    expect(laid.map((clip) => clip.cueId)).toEqual(cues.map((cue) => cue.id))
    // Where the steps truly are in the recording is known from its making, not from what was measured.
    const made = catalogue().find((recording) => recording.name === 'Walk on gravel, forty steps')!
    const onsets = (made.make(made.rate).onsets ?? []).map((seconds) => seconds * 48_000)
    laid.forEach((clip, index) => {
      const inside = onsets.filter((onset) => onset >= clip.offset && onset < clip.offset + clip.length)
      expect(inside).toHaveLength(1)
      expect(Math.abs(clip.start + inside[0]! - clip.offset - steps[index]! * FRAME)).toBeLessThan(FRAME / 2)
    })
    // Another step of the same take in the place of one: its attack on the same frame.
    await editor.page.click(`[data-clip="${laid[0]!.id}"]`)
    await editor.press('Alt+c')
    await expect
      .poll(async () => (await editor.document()).clip.get(laid[0]!.id)!.offset)
      .toBe(laid[1]!.offset)
    expect(syncPlace((await editor.document()).clip.get(laid[0]!.id)!)).toBe(steps[0]! * FRAME)
    await editor.press('Alt+Shift+c')
    await expect
      .poll(async () => (await editor.document()).clip.get(laid[0]!.id)!.offset)
      .toBe(laid[0]!.offset)
    for (let undo = 0; undo < 3; undo++) await editor.press('Control+z')
    expect(clipsOf(await editor.document())).toEqual([])
    await editor.page.close()
  }, 120_000)

  it('lays one event at each press, on the frame that is seen, never the same one twice running', async () => {
    const editor = await Editor.open(
      stage.browser,
      stage.server.url,
      await emptyReel(stage.server.url, 'Presses'),
    )
    await search(editor, 'walk gravel forty')
    await editor.page.waitForSelector('[data-strip] [data-events]')
    const frames = [300, 311, 325]
    for (const [index, frame] of frames.entries()) {
      await editor.goTo(timecode(frame))
      await editor.seesFrame(frame - LEADER + LEADER)
      await editor.press('Alt+n')
      await editor.page.waitForFunction(
        (count) => document.querySelectorAll('[data-clip]').length === count,
        index + 1,
      )
    }
    const laid = clipsOf(await editor.document())
    expect(laid.map((clip) => syncPlace(clip) / FRAME)).toEqual(frames)
    expect(laid[1]!.offset).toBeGreaterThan(laid[0]!.offset)
    expect(laid[2]!.offset).toBeGreaterThan(laid[1]!.offset)
    await editor.page.close()
  }, 120_000)

  it('follows a walk out of frame: level falls and pan follows on the same frames, and so it is bounced', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const rain = clipsOf(await editor.document()).find((clip) => clip.name === 'Rain on slate, wide')!
    const [from, to] = [LEADER + 72, LEADER + 216]
    await editor.goTo(timecode(from))
    await page.click(`[data-clip="${rain.id}"]`, { position: { x: 30, y: 160 } })
    await editor.press('Shift+s', 'Shift+i')
    const picture = (await page.locator('[data-follow]').boundingBox())!
    for (const [frame, x] of [
      [from, 0.5],
      [to, 0.98],
    ] as const) {
      await editor.goTo(timecode(frame))
      await page.mouse.click(picture.x + picture.width * x, picture.y + 40)
    }
    await editor.press('Enter')
    await page.waitForSelector('[data-follow]', { state: 'detached' })
    // The level, by clicks on its ride beside the gate at both frames.
    await editor.press('i')
    for (const [frame, value] of [
      [from, 0],
      [to, -30],
    ] as const) {
      await editor.goTo(timecode(frame))
      await editor.seesFrame(frame)
      const lane = (await page.locator(`[data-ride="${rain.trackId}"]`).boundingBox())!
      const sheet = (await page.locator('[data-sheet]').boundingBox())!
      const gate = sheet.y + gateOf(sheet.height)
      await page.mouse.click(lane.x + 4 + ((value + 48) / 60) * (lane.width - 8), gate)
    }
    await editor.press('i', 'i')
    const doc = await editor.document()
    const [level, pan] = [rideOf(doc, rain.trackId, 'level'), rideOf(doc, rain.trackId, 'pan')]
    expect(pan.map((point) => [point.at / FRAME, point.value])).toEqual([
      [from, expect.closeTo(0, 1)],
      [to, expect.closeTo(0.96, 1)],
    ])
    // A click lies on a pixel: half a frame at this zoom, and less than a decibel.
    level.forEach((point, index) => expect(Math.abs(point.at / FRAME - [from, to][index]!)).toBeLessThan(1))
    expect(level.map((point) => point.value)).toEqual([expect.closeTo(0, -0.5), expect.closeTo(-30, -0.5)])

    const mix = decode(await bounced(stage.server, DEMO))
    // Beside what the recording itself holds there, by the published laws: decibels, and the pan of two channels.
    const chunks = new Map<number, Float32Array>()
    const sourceAt = async (place: number): Promise<[number, number]> => {
      const index = Math.floor(place / PCM_CHUNK)
      const chunk =
        chunks.get(index) ??
        new Float32Array(
          await (await fetch(`${stage.server.url}/api/media/${rain.soundId}/pcm/${index}`)).arrayBuffer(),
        )
      chunks.set(index, chunk)
      const at = 2 * (place - index * PCM_CHUNK)
      return [chunk[at]!, chunk[at + 1]!]
    }
    const { levelRide, panRide } = ridesOf(doc, rain.trackId)
    const track = doc.track.get(rain.trackId)!
    let worst = 0
    let loudest = 0
    for (let at = (from + 20) * FRAME; at < (to - 10) * FRAME; at += 997) {
      const gain = gainFromDb(rain.gain + track.level + rideValue(levelRide!, at))
      const angle = (rideValue(panRide!, at) * Math.PI) / 2
      const [l, r] = (await sourceAt(rain.offset + at - rain.start)).map((value) => value * gain) as [
        number,
        number,
      ]
      loudest = Math.max(loudest, Math.abs(l), Math.abs(r))
      worst = Math.max(
        worst,
        Math.abs(mix[2 * at]! - l * Math.cos(angle)),
        Math.abs(mix[2 * at + 1]! - (l * Math.sin(angle) + r)),
      )
    }
    expect(loudest).toBeGreaterThan(0.01)
    expect(worst).toBeLessThan(2e-5)
    await page.close()
  }, 120_000)

  it('swaps a dozen at once, and takes everything back after a reload', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const start = await editor.document()
    const foley = clipsOf(start).find((clip) => clip.name.startsWith('Boot on boards'))!
    await editor.goTo(timecode(Math.round(syncPlace(foley) / FRAME)))
    await search(editor, 'boot paving 1')
    await editor.page.click(`[data-clip="${foley.id}"]`)
    await editor.press('Alt+a', 'Alt+x')
    const swapped = await editor.document()
    const changed = clipsOf(swapped).filter((clip) => start.clip.get(clip.id)!.soundId !== clip.soundId)
    expect(changed.length).toBeGreaterThanOrEqual(12)
    for (const clip of changed) {
      const before = start.clip.get(clip.id)!
      expect(clip).toMatchObject({
        gain: before.gain,
        trackId: before.trackId,
        cueId: before.cueId,
        name: 'Boot on paving 1',
      })
      expect(syncPlace(clip)).toBe(syncPlace(before))
    }
    // One of them is bent and cut about, by keys.
    await editor.page.click(`[data-clip="${foley.id}"]`)
    await editor.press('Alt+ArrowDown', 'y', 'Alt+-', 'd', 'u')
    const after = await editor.document()
    expect(after.clip.get(foley.id)).toMatchObject({
      reverse: true,
      gain: swapped.clip.get(foley.id)!.gain - 1,
    })
    const copy = clipsOf(after).find((clip) => !start.clip.get(clip.id))!
    expect(copy).toMatchObject({ locked: true, reverse: true })
    await editor.press('Delete')
    await editor.page.getByText('it is locked; unlock it first').waitFor()
    // Cut at the gate by pointer and key; pasted elsewhere.
    await editor.press('u', 'Control+x')
    await editor.goTo(timecode(LEADER + 400))
    await editor.press('Control+v')
    expect(clipsOf(await editor.document()).map(syncPlace)).toContain(
      frameToSample(frames(LEADER + 400), FRAME_RATES['24']),
    )
    await editor.reload()
    await editor.page.locator('[data-timecode]').focus()
    for (let undo = 0; undo < 9; undo++) await editor.press('Control+z')
    expect(await editor.document()).toEqual(start)
    // Any moment can be gone back to, and that is an edit like others.
    await editor.press('Shift+h')
    await editor.page
      .getByRole('listitem')
      .filter({ hasText: /Swap \d+ sounds/ })
      .getByRole('button')
      .last()
      .click()
    await editor.page.locator('[data-history]').getByText('Go back to').first().waitFor()
    expect((await editor.document()).clip).toEqual(swapped.clip)
    await editor.page.close()
  }, 120_000)

  it('takes a result that is dropped on a track, its attack on the frame under the pointer', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const before = await editor.document()
    await editor.goTo(timecode(LEADER + 330))
    await search(editor, 'boot paving 2')
    const track = [...before.track.values()].find((one) => one.name === 'Train')!
    const sheet = (await page.locator('[data-sheet]').boundingBox())!
    const head = (await page.locator(`[data-head="${track.id}"]`).boundingBox())!
    const gate = gateOf(sheet.height)
    await page.hover('[data-sound]:has-text("Boot on paving 2")')
    await page.mouse.down()
    await page.mouse.move(head.x + 30, sheet.y + gate + 40)
    await page.mouse.move(head.x + 30, sheet.y + gate + 1)
    // It is seen where it would lie before it is let go, and nothing is kept yet.
    await page.locator('[data-try="true"][aria-label="Trying Boot on paving 2"]').waitFor()
    await page
      .locator('[data-drag]')
      .getByText(`${timecode(LEADER + 330)} on Train`)
      .waitFor()
    await page.mouse.up()
    await page.locator('[data-drag]').waitFor({ state: 'detached' })
    const dropped = Editor.newClip(before, await editor.document())
    expect(dropped).toMatchObject({ trackId: track.id, name: 'Boot on paving 2' })
    expect(syncPlace(dropped)).toBe((LEADER + 330) * FRAME)
    await editor.press('Control+z')
    expect(await editor.document()).toEqual(before)
    await page.close()
  }, 120_000)

  it('is done by key: ends, fades and sync point at the gate, the sound inside, the track beside; each a step to take back', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const before = await editor.document()
    const train = clipsOf(before).find((clip) => clip.name === 'Goods train passes left to right')!
    const now = async (): Promise<Clip> => (await editor.document()).clip.get(train.id)!
    const first = Math.ceil(train.start / FRAME) + 48
    const gateAt = async (frame: number): Promise<void> => {
      await editor.goTo(timecode(frame))
      await editor.seesFrame(frame)
    }
    await gateAt(first)
    await editor.page.click(`[data-clip="${train.id}"]`, { position: { x: 30, y: 120 } })
    await gateAt(first)
    await editor.press('[')
    expect([(await now()).start, (await now()).offset]).toEqual([
      first * FRAME,
      train.offset + first * FRAME - train.start,
    ])
    await gateAt(first + 96)
    await editor.press(']')
    expect((await now()).length).toBe(97 * FRAME)
    await gateAt(first + 12)
    await editor.press('Alt+[')
    await gateAt(first + 85)
    await editor.press('Alt+]', '\\')
    expect(await now()).toMatchObject({
      fadeIn: 12 * FRAME,
      fadeOut: 12 * FRAME,
      sync: (await now()).offset + 85 * FRAME,
    })
    const { offset } = await now()
    await editor.press('Control+ArrowDown', 'Control+ArrowDown', 'Control+ArrowUp')
    expect([(await now()).offset, (await now()).start]).toEqual([offset - FRAME, first * FRAME])
    const tracks = tracksInOrder(before).map((track) => track.id)
    await editor.press('Alt+Shift+ArrowLeft')
    expect((await now()).trackId).toBe(tracks[tracks.indexOf(train.trackId) - 1])
    for (let undo = 0; undo < 9; undo++) await editor.press('Control+z')
    expect((await editor.document()).clip).toEqual(before.clip)
    await editor.page.close()
  }, 120_000)

  it('is done by pointer: fades, gain, crossfade, boundary, the sound inside, and a band around several', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, DEMO)
    const { page } = editor
    const before = await editor.document()
    const bell = clipsOf(before).find((clip) => clip.name === 'Block bell, single stroke 2')!
    await editor.goTo(timecode(Math.round(syncPlace(bell) / FRAME)))
    const box = `[data-clip="${bell.id}"]`
    await page.click(box)
    await editor.drag(`${box} [data-handle="fadeOut"]`, 0, -30)
    await editor.drag(`${box} [data-handle="gain"]`, -12, 0)
    const shaped = (await editor.document()).clip.get(bell.id)!
    expect(shaped.fadeOut).toBeGreaterThan(bell.fadeOut + 20_000)
    expect(shaped.gain).toBeCloseTo(bell.gain - 3, 5)
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    expect(await editor.document()).toEqual(before)
    // Split a second on; the boundary is rolled with Alt, the second part slipped with Alt.
    await editor.goTo(timecode(Math.round(syncPlace(bell) / FRAME) + 24))
    await editor.press('x')
    const second = Editor.newClip(before, await editor.document())
    await page.keyboard.down('Alt')
    await editor.page.hover(`[data-clip="${second.id}"]`)
    await editor.drag(`[data-clip="${second.id}"] [data-trim="head"]`, 0, 20)
    await page.keyboard.up('Alt')
    const rolled = await editor.document()
    expect(rolled.clip.get(bell.id)!.start + rolled.clip.get(bell.id)!.length).toBe(
      rolled.clip.get(second.id)!.start,
    )
    expect(rolled.clip.get(second.id)!.start).toBeGreaterThan(second.start)
    await page.keyboard.down('Alt')
    await editor.drag(`[data-clip="${second.id}"]`, 0, 12)
    await page.keyboard.up('Alt')
    const slipped = (await editor.document()).clip.get(second.id)!
    expect(slipped).toMatchObject({
      start: rolled.clip.get(second.id)!.start,
      length: rolled.clip.get(second.id)!.length,
    })
    expect(slipped.offset).toBeLessThan(rolled.clip.get(second.id)!.offset)
    // Both, by a band around them, are crossfaded by key.
    const [a, b] = [
      (await page.locator(box).boundingBox())!,
      (await page.locator(`[data-clip="${second.id}"]`).boundingBox())!,
    ]
    await page.keyboard.press('Escape')
    await page.keyboard.down('Shift')
    await page.mouse.move(a.x + a.width / 2, a.y - 6)
    await page.mouse.down()
    await page.mouse.move(a.x + a.width / 2 + 4, b.y + 10, { steps: 5 })
    await page.mouse.up()
    await page.keyboard.up('Shift')
    await page.getByRole('heading', { name: '2 sounds' }).waitFor()
    // Nothing that the pointer passed over is selected as text.
    expect(await page.evaluate(() => getSelection()?.toString())).toBe('')
    await editor.press('q')
    const faded = await editor.document()
    expect(faded.clip.get(bell.id)).toMatchObject({
      fadeOut: faded.clip.get(second.id)!.fadeIn,
      fadeOutShape: 'power',
    })
    for (let undo = 0; undo < 4; undo++) await editor.press('Control+z')
    expect(await editor.document()).toEqual(before)
    const paper = (await page.locator('[data-sheet]').boundingBox())!
    await page.mouse.move(paper.x + paper.width - 20, paper.y + paper.height - 60)
    await page.mouse.down()
    await page.mouse.move(paper.x + 200, paper.y + 300, { steps: 8 })
    expect(await page.evaluate(() => getSelection()?.toString())).toBe('')
    await page.mouse.up()
    await page.close()
  }, 120_000)
})

/** Samples of a WAV as ffmpeg decodes it, left and right alternating. */
function decode(wav: Buffer): Float32Array {
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-i', 'pipe:0', '-f', 'f32le', '-'], {
    input: wav,
    maxBuffer: 1 << 29,
  })
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
}
