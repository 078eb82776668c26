import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react'
import type { FoundSoundFile, ListedSound } from '@yodel/core'
import { useDeferredValue, useState } from 'react'
import { answerOf } from '../../../api/answerOf.js'
import { api, messageOf } from '../../../api/api.js'
import { useAppDispatch } from '../../../document/store.js'
import { viewActions } from '../../../document/viewSlice.js'
import { lengthOf } from '../../../panes/sounds/describe.js'

/** An offer: what is likely, or what was searched for. */
interface Offer {
  readonly id: string
  readonly name: string
  readonly shelf: string
  readonly length: number
}
const OFFERED = 12

/** A field that takes a recording: from what is likely, or from a search of the shelves by words. Emptied, it takes none. */
export function SoundChooser(props: {
  label: string
  sound: ListedSound | null
  choices: readonly FoundSoundFile[]
  onChoose: (sound: ListedSound | null) => void
}) {
  const { sound, choices } = props
  const dispatch = useAppDispatch()
  const [typed, setTyped] = useState('')
  const q = useDeferredValue(typed.trim())
  const { data } = api.useSoundsInfiniteQuery({ q }, { skip: q === '' })
  const offers: readonly Offer[] =
    q === '' ? choices : (data?.pages.flatMap(({ sounds }) => sounds).slice(0, OFFERED) ?? [])
  const choose = (offer: Offer | null): void => {
    setTyped('')
    if (!offer) return
    const known = choices.find(({ id }) => id === offer.id)
    if (known) return props.onChoose(known)
    answerOf(dispatch(api.endpoints.soundFile.initiate(offer.id))).then(props.onChoose, (error: unknown) =>
      dispatch(viewActions.notify({ tone: 'problem', text: messageOf(error) })),
    )
  }
  return (
    <Combobox<Offer | null> immediate value={null} onChange={choose} onClose={() => setTyped('')}>
      <ComboboxInput
        aria-label={props.label}
        className={`w-full rounded-[3px] border px-1.5 py-0.5 ${sound ? 'border-transparent bg-transparent font-semibold hover:border-line' : 'border-line bg-card'} focus:border-focus focus:bg-paper focus:outline-none`}
        displayValue={() => sound?.name ?? ''}
        placeholder="not found: search"
        onChange={({ target: { value } }) => (value === '' ? props.onChoose(null) : setTyped(value))}
        onKeyDown={(event) => event.stopPropagation()}
      />
      <ComboboxOptions
        anchor="bottom start"
        className="z-30 w-[360px] rounded-[5px] border border-line bg-card py-1 shadow-lg empty:invisible"
      >
        {offers.map((offer) => (
          <ComboboxOption
            key={offer.id}
            value={offer}
            className="flex justify-between gap-3 px-3 py-1 text-[12px] data-focus:bg-paper-3"
          >
            <span className="truncate">
              {offer.name} <span className="text-ink-2">{offer.shelf}</span>
            </span>
            <span className="shrink-0 font-mono text-ink-2">{lengthOf(offer.length)}</span>
          </ComboboxOption>
        ))}
      </ComboboxOptions>
    </Combobox>
  )
}
