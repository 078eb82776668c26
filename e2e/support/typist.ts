import { type CDPSession, type Page } from 'playwright-core'
import { PLACES, type LayoutName } from '../../apps/web/src/actions/keyboard/layouts.js'
import { XKB } from '../../apps/web/src/actions/keyboard/test/xkb.js'

const SHIFT = 8
const CTRL = 2
const ALT = 1

/** Named keys as the devtools protocol wants them: what they are called, and what they write. */
const NAMED: Readonly<Record<string, { code: string; key: string; vk: number; text?: string }>> = {
  'Enter': { code: 'Enter', key: 'Enter', vk: 13, text: '\r' },
  'Tab': { code: 'Tab', key: 'Tab', vk: 9 },
  'Escape': { code: 'Escape', key: 'Escape', vk: 27 },
  'Space': { code: 'Space', key: ' ', vk: 32, text: ' ' },
  ' ': { code: 'Space', key: ' ', vk: 32, text: ' ' },
  'Delete': { code: 'Delete', key: 'Delete', vk: 46 },
  'ArrowDown': { code: 'ArrowDown', key: 'ArrowDown', vk: 40 },
  'ArrowUp': { code: 'ArrowUp', key: 'ArrowUp', vk: 38 },
  'PageDown': { code: 'PageDown', key: 'PageDown', vk: 34 },
}

/** Two hands on a keyboard of some layout: what a browser is told is what it would be told by such a keyboard. */
export class Typist {
  private constructor(
    private readonly page: Page,
    private readonly wire: CDPSession,
    private readonly layout: LayoutName,
  ) {}

  static async at(page: Page, layout: LayoutName): Promise<Typist> {
    return new Typist(page, await page.context().newCDPSession(page), layout)
  }

  /** Presses a key that is called so on the keyboard (`Z`, `Ü`, `Enter`), with `Ctrl`, `Alt`, `Shift` before it. */
  async press(...strokes: string[]): Promise<void> {
    for (const stroke of strokes) {
      const words = stroke.split(' ')
      const name = words.pop() || ' '
      const shift = words.includes('Shift')
      const bits =
        (shift ? SHIFT : 0) + (words.includes('Ctrl') ? CTRL : 0) + (words.includes('Alt') ? ALT : 0)
      await this.send(NAMED[name] ?? this.written(name, shift), bits)
    }
  }

  /** Types a text, letter by letter, with Shift where the keyboard asks for it. */
  async type(text: string): Promise<void> {
    for (const letter of text) {
      const shift = !NAMED[letter] && !XKB[this.layout][0].includes(letter)
      await this.send(NAMED[letter] ?? this.written(letter, shift), shift ? SHIFT : 0)
    }
  }

  /** Goes on with Tab until something that is called so has the keyboard. */
  async tabTo(name: RegExp): Promise<void> {
    for (let tabs = 0; tabs < 120; tabs++) {
      const on = await this.page.evaluate(() => {
        const element = document.activeElement
        return element?.getAttribute('aria-label') ?? element?.textContent ?? ''
      })
      if (name.test(on)) return
      await this.press('Tab')
    }
    throw new Error(`Tab never came to ${name}`)
  }

  private written(sign: string, shift: boolean): { code: string; key: string; vk: number; text: string } {
    const rows = XKB[this.layout]
    const at = [...rows[0]].findIndex(
      (one, index) => one === sign.toLowerCase() || [...rows[1]][index] === sign,
    )
    const key = [...rows[shift ? 1 : 0]][at]
    const code = PLACES[at]
    if (key === undefined || code === undefined)
      throw new Error(`no key of a ${this.layout} keyboard writes ${sign}`)
    // Number of the key as Windows has it: of letters and digits what a US keyboard writes there; of others none is needed.
    const vk = /^(Key|Digit)/.test(code) ? (code.at(-1) as string).charCodeAt(0) : 0
    return { code, key, text: key, vk }
  }

  private async send(
    { code, key, vk, text }: { code: string; key: string; vk: number; text?: string },
    modifiers: number,
  ): Promise<void> {
    const about = { code, key, modifiers, windowsVirtualKeyCode: vk }
    const writes = text !== undefined && (modifiers & (CTRL | ALT)) === 0 ? { text } : {}
    await this.wire.send('Input.dispatchKeyEvent', {
      type: 'text' in writes ? 'keyDown' : 'rawKeyDown',
      ...about,
      ...writes,
    })
    await this.wire.send('Input.dispatchKeyEvent', { type: 'keyUp', ...about })
  }
}
