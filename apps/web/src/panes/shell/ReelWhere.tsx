import { FRAME_RATES, type Reel } from '@yodel/core'
import { Chip } from '../../ui/Button.js'
import { useReel } from '../../session/session.js'

/** Show, reel and rate, for the bar on top. */
export function ReelWhere() {
  return <WhereReel reel={useReel()} />
}

/** {@link ReelWhere} of a reel that need not be open. */
export function WhereReel({ reel }: { reel: Pick<Reel, 'show' | 'name' | 'rate'> }) {
  return (
    <>
      <span className="truncate">{reel.show}</span>
      <span>/</span>
      <b className="font-semibold whitespace-nowrap text-ink">{reel.name}</b>
      <Chip className="font-mono">{FRAME_RATES[reel.rate].label}</Chip>
    </>
  )
}
