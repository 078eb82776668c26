import type { Browser, CDPSession } from 'playwright-core'

/**
 * A page as somebody's own browser has it. Those of Playwright are watched by the inspector, for which V8 notes where each error
 * comes from and reads the whole program again when the first one is made: 120 ms of every opening that nobody waits for.
 */
export class BarePage {
  private last = 0

  private constructor(
    private readonly session: CDPSession,
    private readonly target: { targetId: string; sessionId: string },
  ) {}

  /** Opens one, empty; its page is 1280 by 800 pixels, without the bars about it. */
  static async open(browser: Browser): Promise<BarePage> {
    const session = await browser.newBrowserCDPSession()
    const { targetId } = await session.send('Target.createTarget', {
      ...{ url: 'about:blank', width: 1280, height: 887 },
    })
    const { sessionId } = await session.send('Target.attachToTarget', { targetId, flatten: false })
    return new BarePage(session, { targetId, sessionId })
  }

  /** Goes to a page, and waits for no part of it. */
  async goTo(url: string): Promise<void> {
    await this.ask('Page.navigate', { url })
  }

  /** What an expression of JavaScript comes to in the page, waited for where it is a promise. */
  async evaluate<T>(expression: string): Promise<T> {
    const asked = { expression, awaitPromise: true, returnByValue: true }
    const { result } = (await this.ask('Runtime.evaluate', asked)) as { result: { value: T } }
    return result.value
  }

  async close(): Promise<void> {
    await this.session.send('Target.closeTarget', { targetId: this.target.targetId })
    await this.session.detach()
  }

  private ask(method: string, params: object): Promise<unknown> {
    const id = ++this.last
    const { sessionId } = this.target
    return new Promise((resolve, reject) => {
      const hear = (heard: { sessionId: string; message: string }): void => {
        const answer = JSON.parse(heard.message) as { id?: number; result?: unknown; error?: unknown }
        if (heard.sessionId !== sessionId || answer.id !== id) return
        this.session.off('Target.receivedMessageFromTarget', hear)
        if (answer.error) reject(new Error(`${method}: ${JSON.stringify(answer.error)}`))
        else resolve(answer.result)
      }
      this.session.on('Target.receivedMessageFromTarget', hear)
      const message = JSON.stringify({ id, method, params })
      this.session.send('Target.sendMessageToTarget', { sessionId, message }).catch(reject)
    })
  }
}
