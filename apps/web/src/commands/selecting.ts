import { clipsAfter, clipsLike, type Alike } from '@yodel/core'
import type { CommandContext } from './context.js'

/** Selecting many sounds at once. */
export function selectingCommands({ doc, clips, gate, select, refuse }: CommandContext) {
  const selectFound = (found: readonly string[], where: string): void =>
    found.length === 0 ? refuse(`There is no sound ${where}.`) : select(found)
  return {
    all: () => selectFound(clipsAfter(doc(), 0), 'in the reel'),
    afterGate: () => selectFound(clipsAfter(doc(), gate()), 'after the gate'),
    like: (alike: Alike) => {
      const [clip] = clips()
      if (!clip) return refuse('Select a sound first; then those like it can be selected.')
      selectFound(clipsLike(doc(), clip, alike), 'like it')
    },
    nothing: () => select([]),
  }
}
