import { PanelRightClose, PanelRightOpen, SlidersHorizontal } from 'lucide-react'
import { useTipWithKey } from '../../actions/useKeys.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Sheet } from '../../sheet/Sheet.js'
import { Button } from '../../ui/Button.js'
import { Balance } from '../../panes/balance/Balance.js'
import { SinceStrip } from '../../panes/findings/SinceStrip.js'
import { WorkOff } from '../../panes/findings/WorkOff.js'
import { SelectionCard } from '../../panes/cards/SelectionCard.js'
import { SoundsPane } from '../../panes/sounds/SoundsPane.js'
import { Overview } from '../../panes/overview/Overview.js'
import { History } from './History.js'
import { KeyHelp } from './keys/KeyHelp.js'
import { SHEET_ACTIONS } from '../../actions/sheetActions.js'
import { Palette } from './Palette.js'
import { usePictureWidth } from '../../panes/picture/usePictureWidth.js'
import { ReelPage } from '../../panes/shell/ReelPage.js'
import { useActionKeys, useKeyboardBack } from '../../actions/useActionKeys.js'
import { viewActions } from '../../document/viewSlice.js'
import { useWatching } from '../../session/watching.js'

/** The main screen: picture and card at the left, the Sheet, sounds at the right. */
export function SheetPage() {
  const dispatch = useAppDispatch()
  const { look } = useCommands()
  const showSounds = useAppSelector((state) => state.view.showSounds)
  const showBalance = useAppSelector((state) => state.view.showBalance)
  const showOverview = useAppSelector((state) => state.view.showOverview)
  const { hasPane } = usePictureWidth()
  const balanceTip = useTipWithKey(showBalance ? 'Hide balance' : 'Show balance', 'balance')
  const keysTip = useTipWithKey('Keys', 'keys')
  useActionKeys(SHEET_ACTIONS)
  useKeyboardBack()
  useWatching()
  return (
    <ReelPage
      beside={<SelectionCard />}
      tools={
        <>
          <Button
            look="bare"
            className="px-1.5"
            aria-pressed={showBalance}
            aria-label={showBalance ? 'Hide balance' : 'Show balance'}
            title={balanceTip}
            onClick={look.balance}
          >
            <SlidersHorizontal size={15} />
          </Button>
          <Button
            look="bare"
            className="px-1.5"
            aria-pressed={showSounds}
            aria-label={showSounds ? 'Hide sounds' : 'Show sounds'}
            title={showSounds ? 'Hide sounds' : 'Show sounds'}
            onClick={look.sounds}
          >
            {showSounds ? <PanelRightClose size={15} /> : <PanelRightOpen size={15} />}
          </Button>
          <Button
            look="bare"
            className="px-1.5"
            onClick={() => dispatch(viewActions.setHelp(true))}
            aria-label="Keys"
            title={keysTip}
          >
            ?
          </Button>
        </>
      }
    >
      <div className="flex min-w-0 flex-1 flex-col">
        <WorkOff />
        <SinceStrip />
        <div className="flex min-h-0 flex-1">
          {showOverview && <Overview />}
          <Sheet />
          {hasPane && (showBalance ? <Balance /> : showSounds && <SoundsPane />)}
        </div>
      </div>
      <KeyHelp />
      <Palette />
      <History />
    </ReelPage>
  )
}
