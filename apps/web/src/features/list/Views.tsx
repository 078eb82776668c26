import { useState } from 'react'
import { Button } from '../../ui/Button.js'
import { namedViews, PLAIN_VIEW, saveNamedView, type ListView } from './listView.js'
import { Menu } from '../../ui/Menu.js'

/** Views that were given a name, to come back to. */
export function Views({ view, onView }: { view: ListView; onView: (view: ListView) => void }) {
  const [views, setViews] = useState(namedViews)
  const [name, setName] = useState('')
  return (
    <Menu name="Views">
      <button
        type="button"
        className="block w-full rounded px-2 py-1 text-left hover:bg-paper-3"
        onClick={() => onView(PLAIN_VIEW)}
      >
        Everything by time
      </button>
      {views.map((named) => (
        <span key={named.name} className="flex items-center">
          <button
            type="button"
            className="min-w-0 flex-1 truncate rounded px-2 py-1 text-left hover:bg-paper-3"
            onClick={() => onView(named.view)}
          >
            {named.name}
          </button>
          <button
            type="button"
            aria-label={`Forget ${named.name}`}
            className="size-6 text-ink-3 hover:text-gate"
            onClick={() => setViews(saveNamedView(named.name, null))}
          >
            ×
          </button>
        </span>
      ))}
      <form
        className="mt-1 flex gap-1 border-t border-hair pt-1.5"
        onSubmit={(event) => {
          event.preventDefault()
          if (name.trim() === '') return
          setViews(saveNamedView(name.trim(), view))
          setName('')
        }}
        onKeyDown={(event) => event.stopPropagation()}
      >
        <input
          aria-label="Name of this view"
          placeholder="Name this view"
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="w-[130px] rounded-[3px] border border-line bg-paper px-1.5"
        />
        <Button type="submit">Save</Button>
      </form>
    </Menu>
  )
}
