import { ok, refuse, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import type { Note } from '../reel/records.js'
import { frames } from '../time/units.js'

/**
 * Leaves a note on a frame, or on a cue (it then stands at the cue's sync frame and moves with it).
 *
 * @param args.at - Moment of writing as an ISO 8601 text.
 */
export function addNote(
  doc: ReelDocument,
  args: {
    id: string
    cueId: string | null
    frame: number
    words: string
    author: string
    to?: string
    question?: boolean
    at: string
  },
): Result<Change> {
  if (args.cueId !== null && !doc.cue.get(args.cueId))
    return refuse('CORE_RECORD_MISSING', 'addNote', args.cueId)
  if (args.words.trim() === '') return refuse('CORE_NO_WORDS', 'note')
  const note: Note = {
    kind: 'note',
    id: args.id,
    cueId: args.cueId,
    frame: frames(args.frame),
    words: args.words,
    author: args.author,
    to: args.to ?? '',
    question: args.question ?? false,
    closed: false,
    replyTo: null,
    at: args.at,
  }
  return ok({
    label: note.question ? 'Ask a question' : 'Leave a note',
    added: [note],
    updated: [],
    removed: [],
  })
}

/** Answers a note; an answer belongs to the note that began the talk. */
export function replyToNote(
  doc: ReelDocument,
  args: { id: string; to: string; words: string; author: string; at: string },
): Result<Change> {
  const first = doc.note.get(args.to)
  if (!first) return refuse('CORE_RECORD_MISSING', 'replyToNote', args.to)
  if (args.words.trim() === '') return refuse('CORE_NO_WORDS', 'answer')
  const { id, words, author, at } = args
  const reply: Note = {
    ...first,
    id,
    words,
    author,
    at,
    to: '',
    question: false,
    closed: false,
    replyTo: first.replyTo ?? first.id,
  }
  return ok({ label: 'Answer a note', added: [reply], updated: [], removed: [] })
}

/** Closes a note, or opens it again. */
export function closeNote(doc: ReelDocument, args: { id: string; closed: boolean }): Result<Change> {
  const from = doc.note.get(args.id)
  if (!from) return refuse('CORE_RECORD_MISSING', 'closeNote', args.id)
  const updated: [Note, Note][] =
    from.closed === args.closed ? [] : [[from, { ...from, closed: args.closed }]]
  return ok({ label: args.closed ? 'Close a note' : 'Open a note again', added: [], updated, removed: [] })
}
