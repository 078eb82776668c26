import { useTables } from '../../document/useTables.js'
import { KeyOf } from '../../actions/useKeys.js'
import { addNote, talksOf } from '@yodel/core'
import { useMemo, useState } from 'react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { TalkView } from '../notes/TalkView.js'
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
