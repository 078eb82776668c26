import type { ReelDocument } from '@yodel/core'

/** What is said where a placed recording is on no shelf any more: its name, and what to do. */
export function goneFromShelves(doc: ReelDocument, soundId: string): Error {
  const clip = [...doc.clip.values()].find((one) => one.soundId === soundId)
  return new Error(
    `“${clip?.name ?? soundId}” is on no shelf any more; replace or delete it, then try again.`,
  )
}
