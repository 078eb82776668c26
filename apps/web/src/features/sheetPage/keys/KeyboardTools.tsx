import { useRef } from 'react'
import { readKeyFile, writeKeyFile } from '../../../actions/keyboard/keyFile.js'
import { LAYOUT_NAMES, LAYOUTS } from '../../../actions/keyboard/layouts.js'
import { SHEET_BY_ID } from '../../../actions/sheetActions.js'
import { keysActions } from '../../../document/keysSlice.js'
import { useAppDispatch, useAppSelector } from '../../../document/store.js'
import { viewActions } from '../../../document/viewSlice.js'
import { Button } from '../../../ui/Button.js'
import { Choice } from '../../../ui/Choice.js'
import { saveFile } from '../../../ui/saveFile.js'

const KNOWN = new Set(SHEET_BY_ID.keys())

/** Which keyboard this is, and keys of one's own as a whole: saved to a file, taken from one, put back. */
export function KeyboardTools() {
  const dispatch = useAppDispatch()
  const { own, layout } = useAppSelector((state) => state.keys)
  const picker = useRef<HTMLInputElement>(null)
  const changed = Object.keys(own).length
  const take = async (file: File): Promise<void> => {
    const read = readKeyFile(await file.text(), KNOWN)
    if (!read) {
      const text = `${file.name} is not a file of keys that Yodel has saved. Nothing was changed.`
      return void dispatch(viewActions.notify({ tone: 'problem', text }))
    }
    dispatch(keysActions.replace(read.own))
    const left = read.left > 0 ? ` ${read.left} for something that is not known here were left out.` : ''
    const text = `${Object.keys(read.own).length} keys taken from ${file.name}.${left}`
    dispatch(viewActions.notify({ tone: 'plain', text }))
  }
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2 rounded-[5px] bg-paper-2 px-3 py-2 text-[12px]">
      <label className="flex items-center gap-1.5">
        Keyboard
        <Choice
          label="Keyboard"
          value={layout ?? ''}
          options={[
            ['', 'As the browser says'] as const,
            ...LAYOUT_NAMES.map((name) => [name, LAYOUTS[name].name] as const),
          ]}
          onChange={(name) => dispatch(keysActions.setLayout(name || null))}
        />
      </label>
      <span className="mr-auto text-ink-2">
        {changed === 0
          ? 'All keys are as they came.'
          : `${changed} ${changed === 1 ? 'key is' : 'keys are'} your own.`}
      </span>
      <Button onClick={() => picker.current?.click()}>Take from a file …</Button>
      <Button disabled={changed === 0} onClick={() => saveFile('keys.json', writeKeyFile(own))}>
        Save to a file
      </Button>
      <Button disabled={changed === 0} onClick={() => dispatch(keysActions.replace({}))}>
        Put all back
      </Button>
      <input
        ref={picker}
        type="file"
        accept=".json,application/json"
        hidden
        aria-label="File of keys"
        onChange={(event) => {
          const [file] = event.target.files ?? []
          event.target.value = ''
          if (file) void take(file)
        }}
      />
    </div>
  )
}
