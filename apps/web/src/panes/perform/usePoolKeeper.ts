import type { Pool } from '@yodel/core'
import { poolsApi } from '../../api/poolsApi.js'
import type { Keeper } from '../../api/useKept.js'

/** How the pools of a reel's show are kept: one with nothing in it is not worth it. */
export function usePoolKeeper(reelId: string): Keeper<Pool> {
  const [keep] = poolsApi.useKeepPoolMutation()
  const [drop] = poolsApi.useDropPoolMutation()
  const [fetchPools] = poolsApi.useLazyPoolsQuery()
  return {
    keep: (pool) => keep({ reelId, pool }),
    drop: (id) => drop({ reelId, id }),
    fetch: () => fetchPools(reelId),
    isWorth: ({ members, live }) => members.length > 0 || live !== '',
  }
}
