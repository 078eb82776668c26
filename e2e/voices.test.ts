import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { formatTimecode, rateOf, reelOf, scratchIn, scratchOf, syncPlace, type Cue } from '@yodel/core'
import { describe, expect, it } from 'vitest'
import { bounced } from './support/bounce.js'
import { onDemo } from './support/demo.js'
import { Editor } from './support/Editor.js'

const stage = onDemo()

async function atCue(words: string): Promise<{ editor: Editor; cue: Cue }> {
  const editor = await Editor.open(stage.browser, stage.server.url, 'demo-reel-1')
  const doc = await editor.document()
  const cue = [...doc.cue.values()].find((one) => one.words.includes(words))!
  await editor.goTo(formatTimecode(reelOf(doc).firstFrame + cue.sync, rateOf(doc)))
  await editor.page.click(`text=${words}`)
  return { editor, cue }
}

/** What sox measures of a file, within the band of a telephone and beyond it: dBFS, root mean square. */
function bandsOf(wav: Buffer): { within: number; above: number } {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'yodel-bands-')), 'mix.wav')
  writeFileSync(file, wav)
  const level = (...sinc: string[]): number => {
    const said = spawnSync('sox', [file, '-n', 'sinc', ...sinc, 'stats'], { encoding: 'utf8' }).stderr
    return Number(/RMS lev dB\s+(-?[\d.]+)/.exec(said)?.[1])
  }
  return { within: level('300-3400'), above: level('4600') }
}

describe('a scratch voice', () => {
  it('says a typed line, is laid at the sync of its cue, and said anew in the same place when a word changes', async () => {
    const { editor, cue } = await atCue('She always sticks')
    const { page } = editor
    const part = page.getByRole('region', { name: 'Scratch voice' })
    const laid = async () => scratchOf(await editor.document(), cue.id)
    const words = part.getByLabel('What the voice says')
    await words.fill('Ten. She never sticks.')
    await words.press('Enter')
    await part.getByLabel('Voice', { exact: true }).selectOption('flite rms')
    // Heard by itself: the button ends it while it sounds, and it ends by itself.
    await editor.press('Alt+Shift+Y')
    await part.getByRole('button', { name: 'Stop' }).waitFor()
    await part.getByRole('button', { name: 'Hear' }).waitFor()
    expect(await laid()).toBeNull()

    await editor.press('Alt+Y')
    await part.getByText('temporary').waitFor()
    const first = (await laid())!
    expect(first).toMatchObject({ cueId: cue.id, name: 'Scratch DX 001 Ten. She never sticks.' })
    expect(syncPlace(first)).toBe(cue.sync * 2000)
    expect(scratchIn(first)).toMatchObject({
      text: 'Ten. She never sticks.',
      voice: 'flite rms',
      pace: 'cue',
    })
    // As long as its cue, within 2 %.
    expect(Math.abs(first.length / ((cue.out - cue.sync) * 2000) - 1)).toBeLessThan(0.02)

    // It is in sight and in the hand. It is put elsewhere; another word is said there, and so is it with another pitch.
    await page.locator(`[data-clip="${first.id}"][data-selected="true"]`).waitFor()
    await editor.press('Alt+ArrowDown', 'Alt+ArrowDown')
    await words.fill('Ten. She often sticks.')
    await words.press('Enter')
    await expect.poll(async () => scratchIn((await laid())!)?.said).toBe('Ten. She often sticks.')
    await part.getByRole('button', { name: 'Voice lower' }).click()
    await expect.poll(async () => scratchIn((await laid())!)?.pitch).toBe(-1)
    const again = (await laid())!
    expect([again.id, syncPlace(again), again.trackId]).toEqual([
      first.id,
      (cue.sync + 2) * 2000,
      first.trackId,
    ])
    expect(again.soundId).not.toBe(first.soundId)
    await editor.reload()
    expect(await laid()).toEqual(again)
    // Pitch, words, two frames, laid: four steps back.
    await editor.press(...Array<string>(5).fill('Control+z'))
    await expect.poll(laid).toBeNull()
    await page.close()
  }, 180_000)

  it('follows the words of its cue; all dialogue is said at once; the turnover asks', async () => {
    const { editor, cue } = await atCue('She always sticks')
    const { page } = editor
    const laid = async () => scratchOf(await editor.document(), cue.id)
    await editor.press('Control+k')
    await editor.type('say all dialogue')
    await editor.press('Enter')
    await page.getByText('temporary').first().waitFor()
    expect(scratchIn((await laid())!)?.said).toBe('Nine. She always sticks.')
    const before = (await laid())!
    await page.click(`[data-cue="${cue.id}"]`)
    await page.getByLabel('What is heard').fill('"Nine. She always sings."')
    await page.getByLabel('What is heard').press('Enter')
    await expect.poll(async () => scratchIn((await laid())!)?.said).toBe('Nine. She always sings.')
    expect((await laid())!.id).toBe(before.id)

    // On the telephone: nothing of it lies beyond the band, and nearly all within.
    await editor.press('Alt+Y')
    await page.locator(`[data-clip="${before.id}"][data-selected="true"]`).waitFor()
    await editor.press('Shift+S')
    await editor.saved()
    const wide = bandsOf(await bounced(stage.server, 'demo-reel-1'))
    const doc = await editor.document()
    const track = doc.track.get(before.trackId)!
    await page.getByLabel(`level, pan and treatment of ${track.name}`).click()
    await page.selectOption('[aria-label="Add treatment"]', 'place')
    await editor.saved()
    const telephone = bandsOf(await bounced(stage.server, 'demo-reel-1'))
    expect(wide.above).toBeGreaterThan(-60)
    expect(telephone.above).toBeLessThan(wide.above - 24)
    expect(Math.abs(telephone.within - wide.within)).toBeLessThan(8)
    // The same as treatment of its own, which is marked on the Sheet.
    await page.click('[aria-label="Remove Place or device"]')
    await page.click(`[data-clip="${before.id}"]`)
    await page.selectOption('[aria-label="Add treatment"]', 'place')
    await page.locator(`[data-clip="${before.id}"] [data-treated]`).waitFor()
    await editor.saved()
    expect(bandsOf(await bounced(stage.server, 'demo-reel-1')).above).toBeLessThan(wide.above - 24)
    await page.goto(`${stage.server.url}/reels/demo-reel-1/turnover`)
    await page
      .getByText(/Scratch DX 001 .* looks temporary, and is in the mix/)
      .first()
      .waitFor()
    await page.close()
  }, 180_000)
})
