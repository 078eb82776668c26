import { useTables } from '../../document/useTables.js'
import { KeyOf } from '../../actions/useKeys.js'
import { addNote, closeNote, deleteRecords, replyToNote, talksOf, type Talk } from '@yodel/core'
import { useMemo, useState } from 'react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { when } from '../../ui/when.js'
import { edit } from '../../document/edit.js'
import { viewActions } from '../../document/viewSlice.js'

/** The notes of a cue (or one note at a frame) on its card: read, answer, close; and the writing of a new one. */
export function NotesPart({
  cueId,
  noteId = null,
  frame,
}: {
  cueId: string | null
  noteId?: string | null
  frame: number
}) {
  const dispatch = useAppDispatch()
  const doc = useTables('note', 'cue')
  const noting = useAppSelector((state) => state.view.noting)
  const talks = useMemo(
    () => talksOf(doc).filter(({ note }) => (cueId === null ? note.id === noteId : note.cueId === cueId)),
    [doc, cueId, noteId],
  )
  const writing = noting !== null && noting.cueId === cueId && (cueId !== null || noting.frame === frame)
  return (
    <section className="mt-3 border-t border-line pt-2" aria-label="Notes">
      {talks.map((talk) => (
        <TalkView key={talk.note.id} talk={talk} />
      ))}
      {writing ? (
        <Writing cueId={cueId} frame={frame} />
      ) : (
        cueId !== null && (
          <Button
            look="bare"
            className="-ml-2"
            onClick={() => dispatch(viewActions.setNoting({ cueId, frame }))}
          >
            Note or question <KeyOf action="note" />
          </Button>
        )
      )}
    </section>
  )
}

function TalkView({ talk: { note, replies } }: { talk: Talk }) {
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

function Writing({ cueId, frame }: { cueId: string | null; frame: number }) {
  const dispatch = useAppDispatch()
  const me = useAppSelector((state) => state.document.me)
  const [words, setWords] = useState('')
  const [to, setTo] = useState('')
  const [question, setQuestion] = useState(false)
  const leave = (): void => void dispatch(viewActions.setNoting(null))
  const save = (): void => {
    if (words.trim() === '') return leave()
    const id = crypto.randomUUID()
    // A mark at the end says that it is a question, as in any letter.
    const asks = question || words.trim().endsWith('?')
    if (
      !dispatch(
        edit((doc) =>
          addNote(doc, {
            id,
            cueId,
            frame,
            words: words.trim(),
            to: to.trim(),
            question: asks,
            author: me,
            at: new Date().toISOString(),
          }),
        ),
      )
    )
      return
    leave()
    if (cueId === null) dispatch(viewActions.select([id]))
  }
  const field = 'w-full rounded-[3px] border border-line bg-paper px-1.5 py-1'
  return (
    <form
      className="flex flex-col gap-1.5 text-[12px]"
      onSubmit={(event) => {
        event.preventDefault()
        save()
      }}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') leave()
        if (
          event.key === 'Enter' &&
          !event.shiftKey &&
          (event.target as HTMLElement).tagName === 'TEXTAREA'
        ) {
          event.preventDefault()
          save()
        }
      }}
    >
      <textarea
        autoFocus
        rows={2}
        aria-label="Note"
        placeholder="Note, or a question that ends with ?"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        className={field}
      />
      <input
        aria-label="For whom"
        placeholder="For whom? (everybody)"
        value={to}
        onChange={(event) => setTo(event.target.value)}
        className={field}
      />
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={question} onChange={(event) => setQuestion(event.target.checked)} />{' '}
        It is a question
      </label>
      <div className="flex gap-1.5">
        <Button type="submit" look="strong">
          Leave note
        </Button>
        <Button onClick={leave}>Cancel</Button>
      </div>
    </form>
  )
}
