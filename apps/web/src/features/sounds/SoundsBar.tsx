import { api } from '../../api/api.js'
import { WhereReel } from '../../panes/shell/ReelWhere.js'
import { lastPlace } from '../../session/lastPlace.js'
import { TopBar } from '../../ui/TopBar.js'

/** The bar on top of the Sounds page: it leads back to the reel that was open last, where there is one. */
export function SoundsBar() {
  const { data: shows = [] } = api.useShowsQuery()
  const reelId = lastPlace()?.reelId
  const last = shows.flatMap(({ reels }) => reels).find(({ id }) => id === reelId)
  return last ? <TopBar where={<WhereReel reel={last.reel} />} reelId={last.id} /> : <TopBar />
}
