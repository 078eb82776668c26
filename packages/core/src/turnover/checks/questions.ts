import { talksOf } from '../../spotting/notes.js'
import type { Check } from './finding.js'

/** Questions that nobody has closed. */
export const findQuestions: Check = (doc) =>
  talksOf(doc)
    .filter(({ note }) => note.question && !note.closed)
    .map(({ note, frame, replies }) => ({
      ...{ weight: 'mind', at: { from: frame, to: frame + 1 }, about: [note.id] },
      text: `${note.author || 'Somebody'} asks${note.to ? ` ${note.to}` : ''}: ${note.words}${replies.length > 0 ? ' (answered, not closed)' : ''}`,
    }))
