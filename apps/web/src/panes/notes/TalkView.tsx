import { closeNote, deleteRecords, replyToNote, type Talk } from '@yodel/core'
import { useState } from 'react'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { when } from '../../ui/when.js'

/** A note or question with its answers: read, answered, closed, deleted. */
export function TalkView({ talk: { note, replies } }: { talk: Talk }) {
  const dispatch = useAppDispatch()
  const me = useAppSelector((state) => state.document.me)
  const [answer, setAnswer] = useState('')
  const send = (): void => {
    const done = dispatch(
      edit((doc) =>
        replyToNote(doc, {
          id: crypto.randomUUID(),
          to: note.id,
          words: answer.trim(),
          author: me,
          at: new Date().toISOString(),
        }),
      ),
    )
    if (done) setAnswer('')
  }
  return (
    <article
      className={`mb-2 rounded-[3px] border border-line px-2 py-1.5 text-[12px] ${note.closed ? 'opacity-60' : 'bg-paper'}`}
    >
      {[note, ...replies].map((line) => (
        <p key={line.id} className="mb-1">
          <b className="font-semibold">{line.author || 'Somebody'}</b>
          {line.to && <span className="text-ink-2"> to {line.to}</span>}
          <span className="ml-1.5 text-[11px] text-ink-3">{when(line.at)}</span>
          <br />
          {line.question && <b>? </b>}
          {line.words}
        </p>
      ))}
      {!note.closed && (
        <input
          aria-label="Answer"
          placeholder="Answer, then Enter"
          value={answer}
          onChange={(event) => setAnswer(event.target.value)}
          onKeyDown={(event) => {
            event.stopPropagation()
            if (event.key === 'Enter' && answer.trim() !== '') send()
            if (event.key === 'Escape') event.currentTarget.blur()
          }}
          className="w-full rounded-[3px] border border-line bg-card px-1.5 py-0.5"
        />
      )}
      <div className="mt-1 flex gap-1">
        <Button
          look="bare"
          className="px-1"
          onClick={() => dispatch(edit((doc) => closeNote(doc, { id: note.id, closed: !note.closed })))}
        >
          {note.closed ? 'Open again' : 'Close'}
        </Button>
        <Button
          look="bare"
          className="px-1"
          onClick={() => dispatch(edit((doc) => deleteRecords(doc, { ids: [note.id] })))}
        >
          Delete
        </Button>
      </div>
    </article>
  )
}
