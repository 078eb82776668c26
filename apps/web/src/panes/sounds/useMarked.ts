import { useMemo, useRef, type MouseEvent } from 'react'
import { searchActions } from '../../document/searchSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import type { Search } from './useSearch.js'

/** Several results that something is done with at once. */
export interface Marked {
  readonly ids: readonly string[]
  readonly has: ReadonlySet<string>
  /** Chooses a result; with Shift marks up to it, with Ctrl or ⌘ marks it or not. */
  readonly choose: (index: number, event?: MouseEvent) => void
  /** Goes on by one result and marks what lies between. */
  readonly extend: (by: number) => void
  readonly clear: () => void
}

/** Marks results. @param choose - Chooses one by its place, which hears it */
export function useMarked({ sounds }: Search, choose: (index: number) => void): Marked {
  const dispatch = useAppDispatch()
  const ids = useAppSelector((state) => state.search.marked)
  const chosenId = useAppSelector((state) => state.trying.sound?.id)
  const anchor = useRef(0)
  const mark = (those: readonly string[]): void => void dispatch(searchActions.mark(those))
  const upTo = (index: number): void => {
    const [from, to] = [Math.min(anchor.current, index), Math.max(anchor.current, index)]
    mark(sounds.slice(from, to + 1).map(({ id }) => id))
  }
  return {
    ids,
    has: useMemo(() => new Set(ids), [ids]),
    choose: (index, event) => {
      const id = sounds[index]?.id
      if (id === undefined) return
      if (event?.shiftKey) return upTo(index)
      anchor.current = index
      if (event?.ctrlKey || event?.metaKey)
        return mark(ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id])
      if (ids.length > 0) mark([])
      choose(index)
    },
    extend: (by) => {
      const at = sounds.findIndex(({ id }) => id === chosenId)
      if (ids.length === 0) anchor.current = Math.max(0, at)
      const next = Math.max(0, Math.min(sounds.length - 1, at + by))
      choose(next)
      upTo(next)
    },
    clear: () => mark([]),
  }
}
