/**
 * Web Locks by which pages know of each other: a page holds one under the name of what it keeps in the browser, for
 * as long as it lives. What is kept under a name whose lock nobody holds was left behind by a page that has gone.
 */
export class PageLocks {
  private readonly held = new Map<string, () => void>()

  /** Takes the lock of a name, once; without Web Locks nothing is held. */
  async hold(name: string): Promise<void> {
    if (this.held.has(name) || !globalThis.navigator?.locks) return
    await new Promise<void>((taken) => {
      void navigator.locks.request(name, () => {
        taken()
        return new Promise<void>((release) => this.held.set(name, release))
      })
    })
  }

  /** Gives the lock of a name back. */
  release(name: string): void {
    this.held.get(name)?.()
    this.held.delete(name)
  }

  /** Does something that no two pages do at once; without Web Locks at once. */
  async alone<T>(name: string, act: () => Promise<T>): Promise<T> {
    return globalThis.navigator?.locks ? await navigator.locks.request(name, act) : act()
  }

  /** The names that some page holds at present, this one included. */
  async alive(): Promise<ReadonlySet<string>> {
    const { held = [] } = (await globalThis.navigator?.locks?.query()) ?? {}
    return new Set(held.map(({ name }) => name ?? ''))
  }
}
