import { replaceText, SEARCHED_FIELDS, type Cue } from '@yodel/core'
import { useMemo } from 'react'
import { useForm } from 'react-hook-form'
import { useAppDispatch } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { edit } from '../../document/edit.js'

/** Find and replace in the words of the cues that the list shows. */
export function FindReplace({ cues, onClose }: { cues: readonly Cue[]; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const { register, handleSubmit, watch } = useForm({ defaultValues: { find: '', replace: '' } })
  const find = watch('find')
  const found = useMemo(() => {
    const wanted = find.toLowerCase()
    return wanted === ''
      ? []
      : cues.filter((cue) => SEARCHED_FIELDS.some((key) => cue[key].toLowerCase().includes(wanted)))
  }, [cues, find])
  const submit = handleSubmit((asked) => {
    const ids = found.map((cue) => cue.id)
    if (ids.length > 0) dispatch(edit((doc) => replaceText(doc, { ids, ...asked })))
  })
  const field = 'h-7 w-[190px] rounded-[3px] border border-line bg-card px-2 text-[12px]'
  return (
    <form
      className="flex items-center gap-2 border-b border-line bg-paper-3 px-3 py-1.5 text-[12px]"
      onSubmit={(event) => void submit(event)}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') onClose()
      }}
    >
      <input autoFocus aria-label="Find" placeholder="Find" className={field} {...register('find')} />
      <input aria-label="Replace by" placeholder="Replace by" className={field} {...register('replace')} />
      <Button type="submit" look="strong" disabled={found.length === 0}>
        Replace in {found.length} cue{found.length === 1 ? '' : 's'}
      </Button>
      <Button onClick={onClose}>Close</Button>
    </form>
  )
}
