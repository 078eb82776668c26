import { DialogTitle } from '@headlessui/react'
import { useState } from 'react'
import { Link } from 'react-router'
import { clashesOf } from '../../../actions/action.js'
import { SHEET_BY_ID, SHEET_GROUPS, type ActionGroup } from '../../../actions/sheetActions.js'
import { useHeldNames, useOwnKeys } from '../../../actions/useKeys.js'
import { useAppDispatch, useAppSelector, type RootState } from '../../../document/store.js'
import { viewActions } from '../../../document/viewSlice.js'
import { Button } from '../../../ui/Button.js'
import { Overlay } from '../../../ui/Overlay.js'
import { KeyboardTools } from './KeyboardTools.js'
import { KeyRow } from './KeyRow.js'

/** What can be done now by key; everything, and keys of one's own, one press further. */
export function KeyHelp() {
  const dispatch = useAppDispatch()
  const open = useAppSelector((state) => state.view.help)
  const close = (): void => void dispatch(viewActions.setHelp(false))
  return (
    <Overlay open={open} onClose={close} className="w-[920px] overflow-y-auto p-5">
      <Keys onClose={close} />
    </Overlay>
  )
}

function Keys({ onClose }: { onClose: () => void }) {
  const [all, setAll] = useState(false)
  const [changing, setChanging] = useState(false)
  const clip = useAppSelector(hasClip)
  const rides = useAppSelector((state) => state.view.ride !== null)
  const now = (group: ActionGroup): boolean =>
    group.needs === null || (group.needs === 'sound' ? clip : rides)
  const shown = SHEET_GROUPS.filter((group) => all || changing || now(group))
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <DialogTitle className="mr-auto text-[16px] font-bold">
          {all || changing ? 'All keys' : 'What can be done now'}
        </DialogTitle>
        {!changing && (
          <Button onClick={() => setAll(!all)}>{all ? 'Only what can be done now' : 'All keys'}</Button>
        )}
        <Button
          look={changing ? 'strong' : 'plain'}
          aria-pressed={changing}
          onClick={() => setChanging(!changing)}
        >
          Change keys
        </Button>
        <Link
          to="/guide"
          onClick={onClose}
          className="rounded-[5px] border border-line px-2.5 py-1 text-[12.5px] hover:border-ink-3"
        >
          Guide
        </Link>
        <Button onClick={onClose}>Close</Button>
      </div>
      {changing && <KeyboardTools />}
      <Groups groups={shown} changing={changing} />
      {!changing && <ByPointer />}
    </>
  )
}

const hasClip = (state: RootState): boolean =>
  state.view.selected.some((id) => state.document.doc?.clip.has(id))

function Groups({ groups, changing }: { groups: readonly ActionGroup[]; changing: boolean }) {
  const actions = useOwnKeys(ALL)
  const clashes = clashesOf(actions)
  const byId = new Map(actions.map((action) => [action.id, action]))
  return (
    <div className="mt-3 columns-2 gap-x-7 text-[12px]">
      {groups.map(({ title, actions: those }) => (
        <section key={title} className="mb-3" aria-label={title}>
          <h3 className="mb-0.5 break-after-avoid border-b border-hair text-[11px] font-bold text-ink-2">
            {title}
          </h3>
          {those.map(({ id }) => {
            const action = byId.get(id)
            return action && <KeyRow key={id} action={action} clashes={clashes} changing={changing} />
          })}
        </section>
      ))}
    </div>
  )
}

const ALL = [...SHEET_BY_ID.values()]

function ByPointer() {
  const { ctrl, alt } = useHeldNames()
  return (
    <p className="mt-1 text-ink-2">
      A cue’s key, held while rolling, gives the cue its length. Drag the paper or turn the wheel to move
      time; {ctrl} and wheel to zoom; drag a sound to move it (whole frames, free with {ctrl}), its ends to
      trim it (with {alt} the boundary, or the sound inside), the squares on a selected one for its fades, the
      round handle for its gain. With Shift, a drag over the paper selects what it touches. A search result
      can be dragged onto a track.
    </p>
  )
}
