import { takeSchema, type Take } from '@yodel/core'
import { performActions, type PerformState } from '../document/performSlice.js'
import type { AppStore } from '../document/store.js'
import { PageLocks } from '../document/sync/pageLocks.js'

const PREFIX = 'yodel-takes:'
/** This page: no two pages of one reel can take each other's takes away. */
const page = crypto.randomUUID()
const locks = new PageLocks()
const keyOf = (reelId: string): string => `${PREFIX}${reelId}:${page}`

/** What is in hand, as it is written; what is being performed is a take of its own then. */
function written({ takes, current }: PerformState, rolled: number): readonly Take[] {
  return current.length > 0 ? [...takes, { id: crypto.randomUUID(), hits: current, on: true, rolled }] : takes
}

/** The takes that stand under a name of the browser's store; none where they can't be read. */
function readTakes(key: string): readonly Take[] {
  try {
    return takeSchema.array().parse(JSON.parse(localStorage.getItem(key) ?? '[]'))
  } catch {
    return []
  }
}

/**
 * Takes over what pages that have gone have left of a reel.
 *
 * @returns Their takes; they are this page's from now on
 */
const adopt = (reelId: string): Promise<readonly Take[]> =>
  locks.alone(`${PREFIX}adopt`, () => takeOver(reelId))

async function takeOver(reelId: string): Promise<readonly Take[]> {
  await locks.hold(keyOf(reelId))
  const alive = await locks.alive()
  const all = Array.from({ length: localStorage.length }, (_, index) => localStorage.key(index) ?? '')
  const own = keyOf(reelId)
  const left = all.filter((key) => key.startsWith(`${PREFIX}${reelId}:`) && (key === own || !alive.has(key)))
  const takes = left.flatMap(readTakes)
  // Written under this page's name first: should it go now, nothing is lost.
  if (takes.length > 0) localStorage.setItem(own, JSON.stringify(takes))
  for (const key of left) if (key !== own) localStorage.removeItem(key)
  return takes
}

/**
 * Writes what is performed into the browser's store with each hit, so that a killed tab loses none, and brings in what
 * others that were killed have left.
 *
 * @param speed - The speed at which the reel rolls
 * @param refuse - Told in words when the browser has no room
 * @returns The way to end it
 */
export function rememberTakes(
  store: AppStore,
  reelId: string,
  speed: () => number,
  refuse: (text: string) => void,
): () => void {
  const perform = (): PerformState => store.getState().perform
  let { takes, current } = perform()
  let isFull = false
  const unsubscribe = store.subscribe(() => {
    const now = perform()
    if (now.takes === takes && now.current === current) return
    ;({ takes, current } = now)
    const all = written(now, speed())
    try {
      if (all.length === 0) localStorage.removeItem(keyOf(reelId))
      else localStorage.setItem(keyOf(reelId), JSON.stringify(all))
      isFull = false
    } catch {
      if (!isFull)
        refuse('This browser has no room for what you perform: keep it before you close this page.')
      isFull = true
    }
  })
  let ended = false
  void adopt(reelId).then((left) => {
    if (!ended && left.length > 0) store.dispatch(performActions.adopt(left))
  })
  return () => {
    ended = true
    unsubscribe()
  }
}
