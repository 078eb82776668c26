import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { frames, frameToSample, FRAME_RATES, type Clip } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'

const REEL = 'demo-reel-1'
const FIRST = 86_208
const stage = onDemo()

/** Samples of the left channel of a WAV, decoded by ffmpeg to floats. */
function leftOf(file: string, from: number, count: number): Float32Array {
  const bytes = execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      file,
      '-af',
      `atrim=start_sample=${from}:end_sample=${from + count},pan=mono|c0=c0`,
      '-f',
      'f32le',
      '-',
    ],
    {
      maxBuffer: 1 << 28,
    },
  )
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
}

async function recordingOf(clip: Clip): Promise<Float32Array> {
  const response = await fetch(`${stage.server.url}/api/media/${clip.soundId}/pcm/0`)
  const samples = new Float32Array(await response.arrayBuffer())
  return response.headers.get('x-channels') === '1' ? samples : samples.filter((_, index) => index % 2 === 0)
}

describe('the whole path', () => {
  it('goes by keyboard alone: watch, spot, find, try, keep, undo, reload, hand over', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, REEL)
    const { page } = editor
    const before = await editor.document()

    await editor.press('PageDown')
    expect(await editor.timecode()).toBe('01:00:02:00')
    await editor.seesFrame(192 + 48)
    await editor.press('ArrowDown', 'ArrowDown', 'ArrowUp')
    await editor.seesFrame(192 + 49)
    await editor.press('Space')
    await page.waitForFunction(
      () => Number((document.querySelector('[data-picture]') as HTMLElement).dataset['frame']) > 192 + 70,
    )
    await editor.press('Space')

    // Nothing of the demo sounds here, so what is bounced here is what is kept here.
    await editor.goTo('1:01:31:5')
    expect(await editor.timecode()).toBe('01:01:31:05')
    await editor.press('1')
    await editor.type('Gate bolt shot home')
    await editor.press('Enter', '/')
    await editor.type('bolt iron')
    await page.waitForSelector('text=2 sounds')
    await editor.press('ArrowDown', 'Enter')
    await page.waitForSelector('[data-try="true"]')
    await page.waitForSelector('[aria-label="Stop"]')
    expect([...(await editor.document()).clip.keys()]).toHaveLength(before.clip.size)
    await editor.press('Enter')
    await page.waitForSelector('[data-try="true"]', { state: 'detached' })

    const kept = await editor.document()
    const clip = Editor.newClip(before, kept)
    const frame = 99 * 24 + 5
    expect(clip.start + clip.sync - clip.offset).toBe(frameToSample(frames(frame), FRAME_RATES['24']))
    expect(kept.cue.get(clip.cueId ?? '')).toMatchObject({
      category: 'FX',
      words: 'Gate bolt shot home',
      in: frame,
      number: 22,
    })

    await page.locator('body').click({ position: { x: 800, y: 20 } })
    await editor.press('Control+z')
    expect((await editor.document()).clip.get(clip.id)).toBeUndefined()
    await editor.reload()
    await editor.press('Control+Shift+z')
    expect((await editor.document()).clip.get(clip.id)).toEqual(clip)
    await editor.reload()
    await editor.press('Control+z', 'Control+z')
    expect((await editor.document()).cue.get(clip.cueId ?? '')).toMatchObject({ words: '' })
    await editor.press('Control+Shift+z', 'Control+Shift+z')
    expect((await editor.document()).clip.get(clip.id)).toEqual(clip)

    await page.click('nav >> text=Turnover')
    const csv = readFileSync(await editor.download('a[href$="cues.csv"]'), 'utf8')
    expect(csv).toContain('FX 022,FX,01:01:31:05,01:01:31:06,01:01:31:05,0:01,Gate bolt shot home')
    expect(readFileSync(await editor.download('a[href$="clips.edl"]'), 'utf8')).toMatch(
      /SAMPLES: IN -?\d+ LENGTH \d+/,
    )
    await page.click('text=Bounce the mix')
    await page.waitForSelector('[data-mix]', { timeout: 60_000 })
    const wav = await editor.download('[data-mix]')
    const probe = JSON.parse(
      execFileSync('ffprobe', [
        '-v',
        'error',
        '-show_streams',
        '-show_format',
        '-of',
        'json',
        wav,
      ]).toString(),
    ) as {
      streams: object[]
      format: { tags: { time_reference: string } }
    }
    expect(probe.streams[0]).toMatchObject({
      codec_name: 'pcm_s24le',
      sample_rate: '48000',
      channels: 2,
      duration_ts: 2496 * 2000,
    })
    expect(probe.format.tags.time_reference).toBe(String(FIRST * 2000))

    const recording = await recordingOf(clip)
    const full = Math.min(20_000, clip.length - clip.fadeOut)
    const heard = leftOf(wav, clip.start, full)
    const silent = leftOf(wav, clip.start - 1000, 1000)
    expect(Math.max(...silent.map(Math.abs))).toBe(0)
    // Mono in the middle is 3.01 dB down on each side; 24 bits round to 6e-8.
    let worst = 0
    for (let i = clip.fadeIn; i < full; i++)
      worst = Math.max(worst, Math.abs(heard[i]! - recording[clip.offset + i]! * Math.SQRT1_2))
    expect(Math.max(...heard.map(Math.abs))).toBeGreaterThan(0.1)
    expect(worst).toBeLessThan(2e-7)
    await page.close()
  }, 180_000)

  it('goes by pointer: choose, try, keep, drag with the picture following, trim, delete', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, REEL)
    const { page } = editor
    await editor.goTo('1:01:20:0')
    const before = await editor.document()
    await page.click('[data-search]')
    await editor.type('thunder near')
    await page.click('[role="option"] >> text=Thunder near')
    await page.click('[data-strip] >> text=Try')
    await page.waitForSelector('[data-try="true"]')
    await page.click('[data-strip] >> text=Keep')
    await page.waitForSelector('[data-try="true"]', { state: 'detached' })
    const clip = Editor.newClip(before, await editor.document())
    const syncAt = (document: Clip): number => document.start + document.sync - document.offset
    expect(syncAt(clip)).toBe(88 * 48_000)

    // 53 px at 2.12 px a frame are 25 frames: one second and one frame later.
    await editor.drag(`[data-clip="${clip.id}"]`, 0, 53)
    const moved = (await editor.document()).clip.get(clip.id)!
    expect(syncAt(moved)).toBe(88 * 48_000 + 25 * 2000)
    await editor.seesFrame(88 * 24 + 25)
    await editor.page.hover(`[data-clip="${clip.id}"]`)
    await editor.drag(`[data-clip="${clip.id}"] [data-trim="tail"]`, 0, -106)
    const trimmed = (await editor.document()).clip.get(clip.id)!
    expect(trimmed).toMatchObject({ start: moved.start, offset: moved.offset })
    expect(Math.abs(moved.length - trimmed.length - 50 * 2000)).toBeLessThanOrEqual(2000)

    // Dragging the paper moves time; a wheel with Ctrl zooms about the gate.
    const here = await editor.pictureFrame()
    const sheet = (await page.locator('[data-sheet]').boundingBox())!
    await page.mouse.move(sheet.x + 30, sheet.y + 200)
    await page.mouse.down()
    await page.mouse.move(sheet.x + 30, sheet.y + 200 - 53, { steps: 5 })
    await page.mouse.up()
    await page.waitForFunction(
      (frame) =>
        Math.abs(
          Number((document.querySelector('[data-picture]') as HTMLElement).dataset['frame']) - frame,
        ) <= 1,
      here + 25,
    )
    await page.click(`[data-clip="${clip.id}"]`, { position: { x: 20, y: 40 } })
    await page.click('[data-card] >> text=Delete')
    expect((await editor.document()).clip.get(clip.id)).toBeUndefined()
    await page.close()
  }, 120_000)

  it('puts back a try without a trace, and refuses what does not exist', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, REEL)
    const before = await editor.document()
    await editor.press('/')
    await editor.type('bell')
    await editor.page.waitForSelector('[role="option"] >> text=Block bell')
    await editor.press('ArrowDown', 'Enter')
    await editor.page.waitForSelector('[data-try="true"]')
    await editor.press('ArrowDown', 'Escape')
    await editor.page.waitForSelector('[data-try="true"]', { state: 'detached' })
    expect(await editor.document()).toEqual(before)
    await editor.page.locator('body').click({ position: { x: 800, y: 20 } })
    await editor.goTo('5:00:00:00')
    await editor.page.waitForSelector('[role="status"] >> text=lies outside the reel')
    await editor.page.close()
  }, 60_000)

  it('holds a key while rolling for a span', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, REEL)
    const before = await editor.document()
    await editor.goTo('1:01:05:0')
    await editor.press('Space')
    const from = 192 + 65 * 24
    await editor.rollsTo(from + 12)
    await editor.page.keyboard.down('3')
    const pressed = await editor.pictureFrame()
    await editor.rollsTo(pressed + 24)
    await editor.page.keyboard.up('3')
    await editor.type('Rain')
    await editor.press('Enter', 'Space')
    const after = await editor.document()
    const cue = [...after.cue.values()].find((candidate) => !before.cue.get(candidate.id))!
    expect(cue).toMatchObject({ category: 'BG', words: 'Rain' })
    expect(cue.out).toBeGreaterThanOrEqual(pressed + 24)
    expect(Math.abs(cue.in - pressed)).toBeLessThanOrEqual(6)
    await editor.page.close()
  }, 60_000)

  it('loses nothing when the server is killed while somebody works, nor when the page is reloaded meanwhile', async () => {
    const editor = await Editor.open(stage.browser, stage.server.url, REEL)
    await editor.goTo('1:01:33:0')
    stage.server.kill()
    await editor.press('5')
    await editor.type('Kept through a crash')
    await editor.press('Enter')
    await editor.page.waitForSelector('[data-save="away"]')
    await stage.server.start()
    const after = await editor.document()
    expect([...after.cue.values()].filter((cue) => cue.words === 'Kept through a crash')).toHaveLength(1)

    stage.server.kill()
    await editor.press('5')
    await editor.type('Kept through a reload')
    await editor.press('Enter')
    await editor.page.waitForSelector('[data-save="away"]')
    const page = await editor.page.context().newPage()
    await editor.page.close()
    await stage.server.start()
    await page.goto(`${stage.server.url}/reels/${REEL}`)
    await page.waitForSelector('[data-save="saved"]')
    const state = (await (await fetch(`${stage.server.url}/api/reels/${REEL}`)).json()) as {
      records: { words?: string }[]
    }
    expect(state.records.filter((record) => record.words === 'Kept through a reload')).toHaveLength(1)
    await page.close()
  }, 60_000)
})
