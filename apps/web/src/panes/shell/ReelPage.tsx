import type { ReactNode } from 'react'
import { TopBar } from '../../ui/TopBar.js'
import { PictureColumn } from '../picture/PictureColumn.js'
import { ReelWhere } from './ReelWhere.js'
import { SaveMark } from './SaveMark.js'
import { Spoken } from './Spoken.js'
import { SilentMark } from './SilentMark.js'
import { useReel } from '../../session/session.js'

/**
 * A page of a reel: the bar on top and what the page shows.
 *
 * @param beside - What stands under picture and transport at the left; a page without it has neither.
 * @param tools - More buttons for the bar.
 */
export function ReelPage({
  beside,
  tools,
  children,
}: {
  beside?: ReactNode
  tools?: ReactNode
  children: ReactNode
}) {
  const { id } = useReel()
  return (
    <div className="flex h-full flex-col">
      <TopBar where={<ReelWhere />} reelId={id}>
        <SilentMark />
        <Spoken />
        <SaveMark />
        {tools}
      </TopBar>
      {beside === undefined ? (
        children
      ) : (
        <main className="flex min-h-0 flex-1">
          <PictureColumn>{beside}</PictureColumn>
          {children}
        </main>
      )}
    </div>
  )
}
