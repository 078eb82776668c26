import { AppError } from '../errors.js'

/**
 * Work of which only a little is done at once, first come, first served. What nobody waits for any more when its turn comes
 * is dropped: while one types, most searches are out of date before they begin.
 */
export class Line {
  private busy = 0
  private readonly waiting: (() => void)[] = []

  /** @param atOnce - As much as can be done without one thing slowing the other. */
  constructor(private readonly atOnce: number) {}

  /** Does something when its turn comes. @param gone - Says that nobody waits for it any more; null where somebody always does. @throws AppError `NOT_WAITED_FOR` */
  async run<T>(gone: AbortSignal | null, act: () => Promise<T>): Promise<T> {
    if (this.busy >= this.atOnce) await new Promise<void>((resolve) => this.waiting.push(resolve))
    else this.busy++
    try {
      if (gone?.aborted) throw new AppError('NOT_WAITED_FOR', 'Nobody waits for this answer any more.')
      return await act()
    } finally {
      // The turn is handed on, so that nobody can come between.
      const next = this.waiting.shift()
      if (next) next()
      else this.busy--
    }
  }
}
