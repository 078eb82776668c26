import { PanelRightClose, PanelRightOpen } from 'lucide-react'
import { useTipWithKey } from '../../actions/useKeys.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Sheet } from '../../sheet/Sheet.js'
import { Button } from '../../ui/Button.js'
import { SinceStrip } from '../../panes/findings/SinceStrip.js'
import { WorkOff } from '../../panes/findings/WorkOff.js'
import { SelectionCard } from '../../panes/cards/SelectionCard.js'
import { DraftStrip } from '../../panes/draft/DraftStrip.js'
import { PadRow } from '../../panes/perform/PadRow.js'
import { RecordStrip } from '../../panes/record/RecordStrip.js'
import { RightPane } from './RightPane.js'
import { Overview } from '../../panes/overview/Overview.js'
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
  const pane = useAppSelector((state) => state.view.pane)
  const showOverview = useAppSelector((state) => state.view.showOverview)
  const { hasPane } = usePictureWidth()
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
            aria-pressed={pane !== null}
            aria-label={pane ? 'Hide the pane at the right' : 'Show the pane at the right'}
            title={pane ? 'Hide the pane at the right' : 'Show the pane at the right'}
            onClick={() => dispatch(viewActions.showPane(pane ? null : 'sounds'))}
          >
            {pane ? <PanelRightClose size={15} /> : <PanelRightOpen size={15} />}
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
        <DraftStrip />
        <RecordStrip />
        <div className="flex min-h-0 flex-1">
          {showOverview && <Overview />}
          <Sheet />
          {hasPane && pane && <RightPane shown={pane} />}
        </div>
        <PadRow />
      </div>
      <KeyHelp />
      <Palette />
    </ReelPage>
  )
}
