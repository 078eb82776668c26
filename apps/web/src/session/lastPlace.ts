import { CATEGORIES, type Category } from '@yodel/core'
import { z } from 'zod'

const KEY = 'yodel-last-place'

const placeSchema = z.object({
  reelId: z.string(),
  /** Frame of the gate, from the reel's first frame. */
  frame: z.int(),
  pass: z.enum(CATEGORIES).nullable(),
})

/** Where somebody was last in this browser. */
export interface LastPlace {
  readonly reelId: string
  readonly frame: number
  readonly pass: Category | null
}

/** Where somebody was last; null when that is not known. */
export function lastPlace(): LastPlace | null {
  try {
    return placeSchema.safeParse(JSON.parse(localStorage.getItem(KEY) ?? 'null')).data ?? null
  } catch {
    return null
  }
}

/** Remembers where somebody is: in this tab for each reel, in this browser for the last one. */
export function rememberPlace(place: LastPlace): void {
  sessionStorage.setItem(`gate:${place.reelId}`, String(place.frame))
  localStorage.setItem(KEY, JSON.stringify(place))
}

/** The frame at which a reel is opened: the one its address names, where it stood in this tab, else in this browser, else null. */
export function frameToOpen(reelId: string): number | null {
  const named = Number(new URLSearchParams(location.search).get('at') ?? NaN)
  if (Number.isInteger(named)) {
    // Once: a reload comes back to where one has gone since.
    history.replaceState(history.state, '', location.pathname)
    return named
  }
  const kept = sessionStorage.getItem(`gate:${reelId}`)
  if (kept !== null) return Number(kept)
  const last = lastPlace()
  return last?.reelId === reelId ? last.frame : null
}
