import { CATEGORIES, cueCode, renumberCues, type Category, type Cue } from '@yodel/core'
import { KeyOf } from '../../actions/useKeys.js'
import { DialogTitle } from '@headlessui/react'
import { useState } from 'react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Overlay } from '../../ui/Overlay.js'
import { edit } from '../../document/edit.js'

/** Gives cues new numbers in the order of time, after showing which would change. */
export function RenumberDialog({ onClose }: { onClose: () => void }) {
  const dispatch = useAppDispatch()
  const doc = useAppSelector((state) => state.document.doc)
  const [picked, setPicked] = useState<readonly Category[]>(CATEGORIES)
  const [first, setFirst] = useState(1)
  const [step, setStep] = useState(1)
  const wish = { categories: picked, first, step }
  const preview = renumberCues(doc, wish)
  const pairs = preview.ok ? (preview.value.updated as unknown as readonly (readonly [Cue, Cue])[]) : []
  return (
    <Overlay open onClose={onClose} className="flex w-[460px] flex-col gap-3 p-5">
      <DialogTitle className="text-[16px] font-bold">Renumber by time</DialogTitle>
      <p className="text-ink-2">
        Numbers that are out in the world, on paper or in a mail, will no longer fit. They can be taken back
        with <KeyOf action="undo" />.
      </p>
      <div className="flex flex-wrap gap-3">
        {CATEGORIES.map((category) => (
          <label key={category} className={`ink-${category} flex items-center gap-1 font-bold text-(--cat)`}>
            <input
              type="checkbox"
              checked={picked.includes(category)}
              onChange={() =>
                setPicked(
                  picked.includes(category)
                    ? picked.filter((other) => other !== category)
                    : CATEGORIES.filter((other) => other === category || picked.includes(other)),
                )
              }
            />
            {category}
          </label>
        ))}
      </div>
      <div className="flex gap-4">
        <Figure name="First number" value={first} onChange={setFirst} />
        <Figure name="Step" value={step} onChange={setStep} />
      </div>
      <ul
        className="max-h-[220px] min-h-[60px] overflow-y-auto border-y border-line py-1 font-mono text-[12px]"
        aria-label="What would change"
      >
        {pairs.slice(0, 200).map(([from, to]) => (
          <li key={from.id} className="flex gap-2">
            <span className="w-[70px]">{cueCode(from)}</span>→
            <span className="w-[70px] font-bold">{cueCode(to)}</span>
            <span className="truncate font-sans text-ink-2">{from.words}</span>
          </li>
        ))}
        {pairs.length === 0 && (
          <li className="font-sans text-ink-2">
            {preview.ok ? 'Every number is already as it would be.' : preview.message}
          </li>
        )}
      </ul>
      <div className="flex gap-2">
        <Button
          look="gate"
          disabled={pairs.length === 0}
          onClick={() => {
            if (dispatch(edit((now) => renumberCues(now, wish)))) onClose()
          }}
        >
          Renumber {pairs.length} cues
        </Button>
        <Button onClick={onClose}>Leave them</Button>
      </div>
    </Overlay>
  )
}

function Figure({
  name,
  value,
  onChange,
}: {
  name: string
  value: number
  onChange: (value: number) => void
}) {
  return (
    <label className="flex items-center gap-2">
      {name}
      <input
        type="number"
        min={1}
        value={value}
        onChange={(event) => onChange(Number(event.target.value))}
        className="h-7 w-[70px] rounded-[3px] border border-line bg-card px-2 font-mono"
      />
    </label>
  )
}
