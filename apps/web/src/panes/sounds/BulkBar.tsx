import type { SoundEdit } from '@yodel/core'
import { useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { viewActions } from '../../document/viewSlice.js'
import { searchActions } from '../../document/searchSlice.js'
import { Stars } from './SoundCard.js'

const FIELDS = [
  ['licence', 'Licence'],
  ['source', 'Source'],
  ['category', 'Category'],
  ['tags', 'Tags'],
  ['note', 'Note'],
] as const

/** What is done with several sounds at once; where there is little room, only putting them together. */
export function BulkBar(props: { ids: readonly string[]; brief?: boolean; onDone: () => void }) {
  const { ids, brief = false, onDone } = props
  const dispatch = useAppDispatch()
  const [field, setField] = useState<(typeof FIELDS)[number][0]>('licence')
  const [text, setText] = useState('')
  const [edit] = api.useEditSoundsMutation()
  const [fill] = api.useFillKitMutation()
  const { data: kits } = api.useKitsQuery()
  const kit = useAppSelector((state) => state.search.kit)
  const tell = (words: string): void => void dispatch(viewActions.notify({ tone: 'plain', text: words }))
  const fail = (error: unknown): void =>
    void dispatch(viewActions.notify({ tone: 'problem', text: messageOf(error) }))
  const save = (fields: SoundEdit): void => {
    edit({ ids: [...ids], edit: fields })
      .unwrap()
      .then(({ edited }) => tell(`Written to ${edited} sounds.`), fail)
  }
  const put = (id: string, inside: boolean): void => {
    dispatch(searchActions.currentKit(id))
    fill({ id, ids: [...ids], put: inside })
      .unwrap()
      .then(() => tell(`${ids.length} sounds ${inside ? 'put into' : 'taken out of'} the kit.`), fail)
  }
  return (
    <div className="flex flex-wrap items-center gap-1.5 border-y border-line bg-card px-3 py-1.5" data-bulk>
      <b className="text-[12px]">{ids.length} sounds</b>
      {brief ? (
        <span className="text-[12px] text-ink-2">marked, for a pool or a kit</span>
      ) : (
        <>
          <Choice label="Field" value={field} options={FIELDS} onChange={setField} />
          <input
            aria-label="What to write"
            value={text}
            placeholder="for all of them"
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && save({ [field]: text.trim() })}
            className="min-h-6 w-[150px] rounded-[3px] border border-line bg-paper px-1.5 text-[12px]"
          />
          <Button onClick={() => save({ [field]: text.trim() })}>Write</Button>
          <Stars rating={0} onRate={(rating) => save({ rating })} />
        </>
      )}
      {kits && kits.length > 0 && (
        <Choice
          label="Put into kit"
          value=""
          options={[['', 'Put into kit …'], ...kits.map((one) => [one.id, one.name] as const)]}
          onChange={(id) => id !== '' && put(id, true)}
        />
      )}
      {kit && <Button onClick={() => put(kit.id, false)}>Take out of {kit.name}</Button>}
      <Button look="bare" className="ml-auto" onClick={onDone}>
        Unmark
      </Button>
    </div>
  )
}
