import { endTake, forgetTake, openTakes } from '../../api/takesApi.js'
import type { Recorded } from './Recorder.js'
import { TakeSender } from './TakeSender.js'
import type { TakeStore } from './TakeStore.js'

/** Seconds after which a take that nobody adds to any more has been left. */
const LEFT_AFTER = 60
const NOTE = 'Broken off'

/**
 * Brings in the takes of a reel that pages which have gone have left: from this browser, all that was recorded; from another one,
 * what the server has.
 *
 * @param bring - Given each take on its way
 */
export async function recoverTakes(
  store: TakeStore,
  reelId: string,
  onTrouble: (message: string | null) => void,
  bring: (recorded: Pick<Recorded, 'about' | 'sound'>) => Promise<void>,
): Promise<void> {
  const left = await store.adopt(reelId).catch(() => [])
  const own = new Set(left.map(({ about }) => about.id))
  for (const { about, end } of left) {
    const sender = new TakeSender(about, store, onTrouble)
    await sender.takeUp()
    const later = end?.later ?? 0
    const sound = sender.end(end?.note ?? NOTE, later)
    await bring({ about: { ...about, start: about.start + later }, sound })
  }
  // Another page of this browser may be at it: it has more of it than the server.
  const held = await store.held()
  const open = await openTakes(reelId).catch(() => [])
  for (const { about, silent, length } of open) {
    if (own.has(about.id) || held.has(about.id) || silent < LEFT_AFTER) continue
    if (length === 0) await forgetTake(about.id).catch(() => undefined)
    else await bring({ about, sound: endTake(about.id, { length: null, note: NOTE, later: 0 }) })
  }
}
