import {
  clipSchema,
  copiedRideSchema,
  stackSchema,
  trackSchema,
  type CopiedClips,
  type CopiedRide,
} from '@yodel/core'
import { z } from 'zod'

const KEY = 'copied-sounds'
const copiedSchema = z.object({
  clips: z.array(clipSchema),
  tracks: z.array(trackSchema.pick({ id: true, category: true })),
  stacks: z.array(stackSchema).default([]),
})

/** Keeps copied sounds in the browser, so that they can be pasted into another reel, also in another window. */
export function storeCopied(copied: CopiedClips): void {
  localStorage.setItem(KEY, JSON.stringify(copied))
}

/** The sounds copied last; null when there are none, or they are of an older form. */
export function copiedClips(): CopiedClips | null {
  try {
    // What is of an older form has no fields that came since.
    const { clips, tracks, stacks } = copiedSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? 'null'))
    return { clips, tracks, stacks }
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
