import { clipSchema, copiedRideSchema, stackSchema, type CopiedClips, type CopiedRide } from '@yodel/core'

const KEY = 'copied-sounds'

/** Keeps copied sounds in the browser, so that they can be pasted into another reel, also in another window. */
export function storeCopied(copied: CopiedClips): void {
  localStorage.setItem(KEY, JSON.stringify(copied))
}

/** The sounds copied last; null when there are none, or they are of an older form. */
export function copiedClips(): CopiedClips | null {
  try {
    const copied = JSON.parse(localStorage.getItem(KEY) ?? 'null') as CopiedClips | null
    const isSound =
      copied?.clips.every((clip) => clipSchema.safeParse(clip).success) &&
      (copied.stacks ?? []).every((stack) => stackSchema.safeParse(stack).success)
    return isSound ? copied : null
  } catch {
    return null
  }
}

const RIDE_KEY = 'copied-ride'

/** Keeps a copied ride in the browser. */
export function storeCopiedRide(copied: CopiedRide): void {
  localStorage.setItem(RIDE_KEY, JSON.stringify(copied))
}

/** The ride copied last, or null. */
export function copiedRide(): CopiedRide | null {
  try {
    return copiedRideSchema.safeParse(JSON.parse(localStorage.getItem(RIDE_KEY) ?? 'null')).data ?? null
  } catch {
    return null
  }
}
