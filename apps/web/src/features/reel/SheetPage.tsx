import { PanelRightClose, PanelRightOpen } from 'lucide-react'
import { useAppDispatch, useAppSelector } from '../../app/store.js'
import { Sheet } from '../../sheet/Sheet.js'
import { Button } from '../../ui/Button.js'
import { TopBar } from '../../ui/TopBar.js'
import { SelectionCard } from '../cards/SelectionCard.js'
import { SoundsPane } from '../sounds/SoundsPane.js'
import { Overview } from '../overview/Overview.js'
import { PictureView } from '../transport/PictureView.js'
import { TransportBar } from '../transport/TransportBar.js'
import { KeyHelp } from './KeyHelp.js'
import { useSheetKeys } from './keys.js'
import { ReelWhere, SaveMark } from './ReelWhere.js'
import { useReel } from './session.js'
import { viewActions } from './viewSlice.js'
import { useWatching } from './watching.js'

/** The main screen: picture and card at the left, the Sheet, sounds at the right. */
export function SheetPage() {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const showSounds = useAppSelector((state) => state.view.showSounds)
  const showOverview = useAppSelector((state) => state.view.showOverview)
  useSheetKeys()
  useWatching()
  return (
    <div className="flex h-full flex-col">
      <TopBar where={<ReelWhere />} reelId={reel.id}>
        <SaveMark />
        <Button
          look="bare"
          className="px-1.5"
          aria-pressed={showSounds}
          aria-label={showSounds ? 'Hide sounds' : 'Show sounds'}
          title={showSounds ? 'Hide sounds' : 'Show sounds'}
          onClick={() => dispatch(viewActions.toggleSounds())}
        >
          {showSounds ? <PanelRightClose size={15} /> : <PanelRightOpen size={15} />}
        </Button>
        <Button look="bare" className="px-1.5" onClick={() => dispatch(viewActions.setHelp(true))} aria-label="Keys" title="Keys (?)">
          ?
        </Button>
      </TopBar>
      <main className="flex min-h-0 flex-1">
        <aside className="flex w-[296px] shrink-0 flex-col border-r border-line" aria-label="Picture and selection">
          <PictureView />
          <TransportBar />
          <SelectionCard />
        </aside>
        {showOverview && <Overview />}
        <Sheet />
        {showSounds && <SoundsPane />}
      </main>
      <KeyHelp />
    </div>
  )
}
