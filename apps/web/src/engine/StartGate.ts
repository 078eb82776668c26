import type { Start } from './messages.js'

/**
 * Holds a start until the page has armed it and the feeder has its first second there. They speak through two ports, and nothing says
 * whose word arrives first: a busy thread may hear "go" before it hears what to go with.
 */
export class StartGate {
  private armed: Start | null = null
  private ready: number | null = null

  /** The page wants it. @returns It, when it can begin */
  arm(start: Start): Start | null {
    this.armed = start
    return this.open()
  }

  /** What the start with this token needs is there. @returns It, when it can begin */
  go(token: number): Start | null {
    this.ready = token
    return this.open()
  }

  /** Changes what waits. */
  change(what: Pick<Start, 'loop'>): void {
    if (this.armed) this.armed = { ...this.armed, ...what }
  }

  /** Nothing is wanted any more. */
  stop(): void {
    this.armed = null
  }

  private open(): Start | null {
    const { armed } = this
    if (!armed || armed.token !== this.ready) return null
    this.armed = null
    return armed
  }
}
