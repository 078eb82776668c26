import type { ReelDocument } from '../reel/document.js'
import type { Note } from '../reel/records.js'

/** A note with the answers to it. */
export interface Talk {
  readonly note: Note
  readonly replies: readonly Note[]
  /** Frame at which it stands: its cue's sync frame, else its own. */
  readonly frame: number
}

/** All notes of a reel with their answers, in the order of time. */
export function talksOf(doc: Pick<ReelDocument, 'note' | 'cue'>): Talk[] {
  const replies = new Map<string, Note[]>()
  for (const note of doc.note.values()) {
    if (note.replyTo === null) continue
    const list = replies.get(note.replyTo)
    if (list) list.push(note)
    else replies.set(note.replyTo, [note])
  }
  return [...doc.note.values()]
    .filter((note) => note.replyTo === null)
    .map((note) => ({
      note,
      replies: (replies.get(note.id) ?? []).sort((a, b) => (a.at < b.at ? -1 : 1)),
      frame: (note.cueId === null ? null : doc.cue.get(note.cueId))?.sync ?? note.frame,
    }))
    .sort((a, b) => a.frame - b.frame || (a.note.at < b.note.at ? -1 : 1))
}
