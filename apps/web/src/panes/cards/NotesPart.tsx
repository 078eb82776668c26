import { useTables } from '../../document/useTables.js'
import { KeyOf } from '../../actions/useKeys.js'
import { addNote, talksOf } from '@yodel/core'
import { useMemo, type SyntheticEvent } from 'react'
import { useForm } from 'react-hook-form'
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
  const { register, handleSubmit } = useForm({ defaultValues: { words: '', to: '', question: false } })
  const leave = (): void => void dispatch(viewActions.setNoting(null))
  const submit = handleSubmit((asked) => {
    const [words, to] = [asked.words.trim(), asked.to.trim()]
    if (words === '') return leave()
    const id = crypto.randomUUID()
    // A mark at the end says that it is a question, as in any letter.
    const question = asked.question || words.endsWith('?')
    const at = new Date().toISOString()
    const note = { id, cueId, frame, words, to, question, author: me, at }
    if (!dispatch(edit((doc) => addNote(doc, note)))) return
    leave()
    if (cueId === null) dispatch(viewActions.select([id]))
  })
  const save = (event: SyntheticEvent): void => void submit(event)
  const field = 'w-full rounded-[3px] border border-line bg-paper px-1.5 py-1'
  return (
    <form
      className="flex flex-col gap-1.5 text-[12px]"
      onSubmit={save}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') leave()
        if (
          event.key === 'Enter' &&
          !event.shiftKey &&
          (event.target as HTMLElement).tagName === 'TEXTAREA'
        ) {
          event.preventDefault()
          save(event)
        }
      }}
    >
      <textarea
        autoFocus
        rows={2}
        aria-label="Note"
        placeholder="Note, or a question that ends with ?"
        className={field}
        {...register('words')}
      />
      <input
        aria-label="For whom"
        placeholder="For whom? (everybody)"
        className={field}
        {...register('to')}
      />
      <label className="flex items-center gap-1.5">
        <input type="checkbox" {...register('question')} /> It is a question
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
