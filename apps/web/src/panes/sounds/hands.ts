import type { Sound } from '@yodel/core'
import { createContext, useContext } from 'react'
import type { Listening } from '../../session/Listening.js'

/** What can be done with a chosen sound: listening anywhere; trying and keeping only where a reel is open. */
export interface SoundHands {
  readonly listening: Listening
  readonly reel: {
    /** Decodes a sound ahead. */
    prepare(sound: Sound): void
    tryHere(): void
    keep(): void
    /** Holds the tried layer while others are tried beside it. */
    hold(): void
    putBack(): void
  } | null
}

/** Given by the pane of a reel and by the page of all sounds. */
export const SoundHandsContext = createContext<SoundHands | null>(null)

/** The hands of the place that one is in. @throws Error outside of both */
export function useSoundHands(): SoundHands {
  const hands = useContext(SoundHandsContext)
  if (!hands) throw new Error('useSoundHands: neither a reel nor the page of sounds is open')
  return hands
}
