import { documentOf, type Clip, type ReelDocument, type ReelState } from '@yodel/core'
import type { Browser, BrowserContext, Page } from 'playwright-core'

/** A sound editor's eyes and hands on the Sheet. */
export class Editor {
  private constructor(
    readonly page: Page,
    private readonly base: string,
    private readonly reelId: string,
  ) {}

  /** Opens a reel and waits until its picture can be seen. @param within - The browser's profile; a fresh one when left out */
  static async open(
    browser: Browser,
    base: string,
    reelId: string,
    within?: BrowserContext,
  ): Promise<Editor> {
    const view = { viewport: { width: 1280, height: 800 }, acceptDownloads: true }
    const context = within ?? (await browser.newContext(view))
    const page = await context.newPage()
    const editor = new Editor(page, base, reelId)
    await page.goto(`${base}/reels/${reelId}`)
    await editor.seesPicture()
    return editor
  }

  async press(...keys: string[]): Promise<this> {
    for (const key of keys) await this.page.keyboard.press(key)
    return this
  }

  async type(text: string): Promise<this> {
    await this.page.keyboard.type(text, { delay: 15 })
    return this
  }

  async goTo(timecode: string): Promise<this> {
    await this.press('.')
    await this.type(timecode)
    await this.press('Enter')
    return this
  }

  /** Searches, listens to the first result, and gives the keyboard back to the Sheet. */
  async choosesFirst(text: string): Promise<void> {
    await this.press('/')
    await this.page.fill('[data-search]', text)
    await this.page.waitForFunction(
      (wanted) =>
        (document.querySelector('[role="listbox"]') as HTMLElement | null)?.dataset['shown'] === wanted,
      text,
    )
    await this.press('ArrowDown', 'Escape')
  }

  /** Timecode on the large display. */
  async timecode(): Promise<string> {
    return (await this.page.locator('[data-timecode]').textContent()) ?? ''
  }

  /** Frame of the movie that is on the canvas, or -1. */
  async pictureFrame(): Promise<number> {
    return Number((await this.page.locator('[data-picture]').getAttribute('data-frame')) ?? -1)
  }

  async seesPicture(): Promise<void> {
    await this.page.waitForFunction(
      () =>
        Number((document.querySelector('[data-picture]') as HTMLElement | null)?.dataset['frame'] ?? -1) >= 0,
      null,
      { timeout: 150_000 },
    )
  }

  async seesFrame(frame: number): Promise<void> {
    const seen = this.page.waitForFunction(
      (wanted) =>
        (document.querySelector('[data-picture]') as HTMLElement).dataset['frame'] === String(wanted),
      frame,
    )
    await seen.catch(async (error: unknown) => {
      const where = `frame ${await this.pictureFrame()} at ${await this.timecode()}`
      throw new Error(`frame ${frame} was not seen, but ${where}`, { cause: error })
    })
  }

  /** Waits while the reel rolls, until the picture has come to a frame, however slow the machine. */
  async rollsTo(frame: number): Promise<void> {
    await this.page.waitForFunction(
      (wanted) =>
        Number((document.querySelector('[data-picture]') as HTMLElement).dataset['frame']) >= wanted,
      frame,
      { polling: 'raf' },
    )
  }

  async saved(): Promise<void> {
    await this.page.waitForSelector('[data-save="saved"]', { timeout: 20_000 })
  }

  async reload(): Promise<void> {
    await this.page.reload()
    await this.seesPicture()
  }

  /** The reel as the server has it. */
  async document(): Promise<ReelDocument> {
    await this.saved()
    const state = (await (await fetch(`${this.base}/api/reels/${this.reelId}`)).json()) as ReelState
    return documentOf(state.records)
  }

  /** The only clip that stands in one document and not in another. */
  static newClip(before: ReelDocument, after: ReelDocument): Clip {
    const fresh = [...after.clip.values()].filter((clip) => !before.clip.get(clip.id))
    if (fresh.length !== 1) throw new Error(`expected one new sound, found ${fresh.length}`)
    return fresh[0] as Clip
  }

  /** Drags what stands at the middle of an element by pixels. */
  async drag(selector: string, dx: number, dy: number): Promise<void> {
    const box = await this.page.locator(selector).boundingBox()
    if (!box) throw new Error(`${selector} is not on the screen`)
    const x = box.x + box.width / 2
    const y = box.y + box.height / 2
    await this.page.mouse.move(x, y)
    await this.page.mouse.down()
    await this.page.mouse.move(x + dx / 2, y + dy / 2, { steps: 4 })
    await this.page.mouse.move(x + dx, y + dy, { steps: 4 })
    await this.page.mouse.up()
  }

  async download(click: string): Promise<string> {
    const [download] = await Promise.all([this.page.waitForEvent('download'), this.page.click(click)])
    return download.path()
  }
}
