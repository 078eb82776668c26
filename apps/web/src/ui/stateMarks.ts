import type { CueState } from '@yodel/core'

/** Marks of the cue states. */
export const STATE_MARKS: Readonly<Record<CueState, string>> = {
  open: '○',
  work: '◐',
  ready: '●',
  approved: '✓',
  omitted: '⊘',
}
