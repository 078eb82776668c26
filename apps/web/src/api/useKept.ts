import { useRef, useState } from 'react'
import { messageOf } from './api.js'

/** What is kept with a show: anybody may change it, and who does says which version that was made from. */
interface Thing {
  readonly id: string
  readonly version: number
}
interface Answer<T> {
  readonly data?: T
  readonly error?: unknown
}

/** How things of one kind are kept. */
export interface Keeper<T extends Thing> {
  readonly keep: (thing: T) => PromiseLike<Answer<T>>
  readonly drop: (id: string) => PromiseLike<Answer<unknown>>
  /** All of them as the server has them now. */
  readonly fetch: () => PromiseLike<Answer<readonly T[]>>
  /** There is something in it that is worth keeping. */
  readonly isWorth: (thing: T) => boolean
}

/** What is done to a thing in its dialog: each change is sent after the one before, and shown as the server has it. */
export interface Kept<T> {
  readonly change: (fields: Partial<T>) => void
  readonly drop: () => void
  /** It was taken away, and can be put back as it was. */
  readonly isDropped: boolean
  /** Why the last change was not taken, or null. */
  readonly refused: string | null
}

/**
 * Keeps changes of a thing with the show.
 *
 * @param show - Shows it as it is, or is to be
 * @param isKept - The server has it
 */
export function useKept<T extends Thing>(
  thing: T,
  show: (thing: T) => void,
  isKept: boolean,
  keeper: Keeper<T>,
): Kept<T> {
  const [refused, setRefused] = useState<string | null>(null)
  const [isDropped, setDropped] = useState(false)
  /** What is wished for, the version that the server has, and the end of what is under way. */
  const wish = useRef({ thing, version: thing.version, sent: Promise.resolve() })
  const send = async (): Promise<void> => {
    const { data, error } = await keeper.keep({ ...wish.current.thing, version: wish.current.version })
    if (data) {
      wish.current.version = data.version
      return setRefused(null)
    }
    setRefused(messageOf(error))
    // It is shown as it is: what was refused is not there.
    const now = (await keeper.fetch()).data?.find(({ id }) => id === wish.current.thing.id)
    if (!now) return
    wish.current = { ...wish.current, thing: now, version: now.version }
    show(now)
  }
  return {
    refused,
    isDropped,
    change: (fields) => {
      const next = { ...wish.current.thing, ...fields }
      wish.current.thing = next
      show(next)
      setDropped(false)
      if (keeper.isWorth(next) || isKept) wish.current.sent = wish.current.sent.then(send)
    },
    drop: () => {
      wish.current.sent = wish.current.sent.then(async () => {
        const { error } = await keeper.drop(wish.current.thing.id)
        if (error) return setRefused(messageOf(error))
        wish.current.version = 0
        setDropped(true)
      })
    },
  }
}
