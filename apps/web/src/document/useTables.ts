import type { RecordKind, ReelDocument } from '@yodel/core'
import { useAppSelector } from './store.js'

/** Some tables of the open reel: the same object for as long as none of them changes, so that what is computed from it stays, too. */
export function useTables<Kind extends RecordKind>(...kinds: Kind[]): Pick<ReelDocument, Kind> {
  return useAppSelector(
    (state): Pick<ReelDocument, Kind> => state.document.doc,
    (before, after) => kinds.every((kind) => before[kind] === after[kind]),
  )
}
