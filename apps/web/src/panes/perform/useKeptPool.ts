import type { Pool } from '@yodel/core'
import { useRef, useState } from 'react'
import { messageOf } from '../../api/api.js'
import { poolsApi } from '../../api/poolsApi.js'
import { useAppSelector } from '../../document/store.js'

/** What is done to a pool in its dialog: each change is sent after the one before, and shown as the server has it. */
export interface KeptPool {
  readonly change: (fields: Partial<Pool>) => void
  readonly drop: () => void
  /** It was taken off its key, and can be put back as it was. */
  readonly isDropped: boolean
  /** Why the last change was not taken, or null. */
  readonly refused: string | null
}

/**
 * Keeps changes of a pool with the show.
 *
 * @param show - Shows the pool as it is, or is to be
 * @param kept - The pool as the server has it, or undefined
 */
export function useKeptPool(pool: Pool, show: (pool: Pool) => void, kept: Pool | undefined): KeptPool {
  const reelId = useAppSelector((state) => state.document.reelId) ?? ''
  const [keep] = poolsApi.useKeepPoolMutation()
  const [remove] = poolsApi.useDropPoolMutation()
  const [fetchPools] = poolsApi.useLazyPoolsQuery()
  const [refused, setRefused] = useState<string | null>(null)
  const [isDropped, setDropped] = useState(false)
  /** What is wished for, the version that the server has, and the end of what is under way. */
  const wish = useRef({ pool, version: pool.version, sent: Promise.resolve() })
  const send = async (): Promise<void> => {
    const { data, error } = await keep({
      reelId,
      pool: { ...wish.current.pool, version: wish.current.version },
    })
    if (data) {
      wish.current.version = data.version
      return setRefused(null)
    }
    setRefused(messageOf(error))
    // It is shown as it is: what was refused is not there.
    const { data: pools } = await fetchPools(reelId)
    const now = pools?.find(({ id }) => id === wish.current.pool.id)
    if (!now) return
    wish.current = { ...wish.current, pool: now, version: now.version }
    show(now)
  }
  return {
    refused,
    isDropped,
    change: (fields) => {
      const next = { ...wish.current.pool, ...fields }
      wish.current.pool = next
      show(next)
      setDropped(false)
      if (next.members.length > 0 || kept) wish.current.sent = wish.current.sent.then(send)
    },
    drop: () => {
      wish.current.sent = wish.current.sent.then(async () => {
        const { error } = await remove({ reelId, id: wish.current.pool.id })
        if (error) return setRefused(messageOf(error))
        wish.current.version = 0
        setDropped(true)
      })
    },
  }
}
