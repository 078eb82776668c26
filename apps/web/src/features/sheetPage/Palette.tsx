import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react'
import { useState } from 'react'
import type { Commands } from '../../commands/commands.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Overlay } from '../../ui/Overlay.js'
import type { Action } from '../../actions/action.js'
import { SHEET_BY_ID } from '../../actions/sheetActions.js'
import { KeyOf } from '../../actions/useKeys.js'
import { viewActions } from '../../document/viewSlice.js'

const ALL = [...SHEET_BY_ID.values()]

/** Finds any action of the Sheet by the beginnings of its words, and does it. */
export function Palette() {
  const dispatch = useAppDispatch()
  const open = useAppSelector((state) => state.view.palette)
  const commands = useCommands()
  const [query, setQuery] = useState('')
  const close = (): void => {
    dispatch(viewActions.setPalette(false))
    setQuery('')
  }
  const words = query.toLowerCase().split(/\s+/).filter(Boolean)
  const found = ALL.filter((action) =>
    words.every((word) => ` ${action.what.toLowerCase()}`.includes(` ${word}`)),
  )
  const choose = (action: Action<Commands> | null): void => {
    if (!action) return
    close()
    // After the dialog has given the focus back, so that fields which an action opens keep it.
    setTimeout(() => action.run(commands)?.())
  }
  return (
    <Overlay
      open={open}
      onClose={close}
      label="What can be done, by its name"
      className="h-max w-[520px] self-start mt-[10vh] overflow-hidden"
    >
      <Combobox<Action<Commands> | null> onChange={choose} value={null}>
        <ComboboxInput
          autoFocus
          aria-label="What to do"
          placeholder="What do you want to do?"
          className="w-full border-b border-line bg-card px-4 py-3 text-[16px] outline-none"
          onChange={(event) => setQuery(event.target.value)}
          onKeyDown={(event) => event.key !== 'Escape' && event.stopPropagation()}
        />
        <ComboboxOptions static className="max-h-[50vh] overflow-y-auto py-1">
          {found.map((action) => (
            <ComboboxOption
              key={action.id}
              value={action}
              className="flex items-center justify-between px-4 py-1.5 data-focus:bg-paper-3"
            >
              {action.what} <KeyOf action={action.id} />
            </ComboboxOption>
          ))}
          {found.length === 0 && <p className="px-4 py-2 text-ink-2">Nothing is called that.</p>}
        </ComboboxOptions>
      </Combobox>
    </Overlay>
  )
}
