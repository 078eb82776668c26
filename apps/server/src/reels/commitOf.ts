import { randomUUID } from 'node:crypto'
import type { Change, Commit } from '@yodel/core'

/** A change as a commit of its own, made on a reel's change number `base`. */
export const commitOf = (change: Change, base: number): Commit => ({
  ...{ changeId: randomUUID(), base, role: 'do', target: null },
  change: {
    label: change.label,
    added: [...change.added],
    updated: change.updated.map(([from, to]) => [from, to]),
    removed: [...change.removed],
  },
})
