import type { ReactNode } from 'react'
import { api } from '../../api/api.js'
import { lastPlace } from '../../session/lastPlace.js'
import { TopBar } from '../../ui/TopBar.js'
import { WhereReel } from './ReelWhere.js'

/** The bar on top of a page that belongs to no reel: it leads back to the one that was open last, where there is one. */
export function LastReelBar({ where }: { where?: ReactNode }) {
  const { data: shows = [] } = api.useShowsQuery()
  const reelId = lastPlace()?.reelId
  const last = shows.flatMap(({ reels }) => reels).find(({ id }) => id === reelId)
  return last ? <TopBar where={<WhereReel reel={last.reel} />} reelId={last.id} /> : <TopBar where={where} />
}
