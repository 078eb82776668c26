import { replaceText, SEARCHED_FIELDS, type Cue } from '@yodel/core'
import { useMemo, useState } from 'react'
import { useAppDispatch } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { edit } from '../../document/edit.js'

/** Find and replace in the words of the cues that the list shows. */
export function FindReplace({ cues, onClose }: { cues: readonly Cue[]; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const [find, setFind] = useState('')
  const [replace, setReplace] = useState('')
  const found = useMemo(() => {
    const wanted = find.toLowerCase()
    return wanted === ''
      ? []
      : cues.filter((cue) => SEARCHED_FIELDS.some((key) => cue[key].toLowerCase().includes(wanted)))
  }, [cues, find])
  const field = 'h-7 w-[190px] rounded-[3px] border border-line bg-card px-2 text-[12px]'
  return (
    <form
      className="flex items-center gap-2 border-b border-line bg-paper-3 px-3 py-1.5 text-[12px]"
      onSubmit={(event) => {
        event.preventDefault()
        if (found.length > 0)
          dispatch(edit((doc) => replaceText(doc, { ids: found.map((cue) => cue.id), find, replace })))
      }}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') onClose()
      }}
    >
      <input
        autoFocus
        aria-label="Find"
        placeholder="Find"
        value={find}
        onChange={(event) => setFind(event.target.value)}
        className={field}
      />
      <input
        aria-label="Replace by"
        placeholder="Replace by"
        value={replace}
        onChange={(event) => setReplace(event.target.value)}
        className={field}
      />
      <Button type="submit" look="strong" disabled={found.length === 0}>
        Replace in {found.length} cue{found.length === 1 ? '' : 's'}
      </Button>
      <Button onClick={onClose}>Close</Button>
    </form>
  )
}
