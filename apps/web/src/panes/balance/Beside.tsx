import { documentOf, recallBalance } from '@yodel/core'
import { useState } from 'react'
import { useKeyOf } from '../../actions/useKeys.js'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { NewMilestone } from '../versions/SheetChooser.js'
import { edit } from '../../document/edit.js'
import { useReel } from '../../session/session.js'
import { viewActions } from '../../document/viewSlice.js'
import { signed } from '../../commands/balance.js'
import { useCommands } from '../../commands/CommandsProvider.js'

/** An earlier balance beside the present one: a milestone of the reel, heard instead at the same loudness, and taken over if it was better. */
export function Beside() {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const { data: milestones = [], error } = api.useMilestonesQuery(reel.id, {
    refetchOnMountOrArgChange: true,
  })
  const [load, { error: loadError }] = api.useLazyReelAtQuery()
  const [keeping, setKeeping] = useState(false)
  const compared = useAppSelector((state) => state.view.compared)
  const { balance } = useCommands()
  const choose = async (id: string): Promise<void> => {
    const milestone = milestones.find((one) => one.id === id)
    if (!milestone) return void dispatch(viewActions.compare(null))
    const { data } = await load({ reelId: reel.id, seq: milestone.seq })
    if (data)
      dispatch(
        viewActions.compare({
          name: milestone.name,
          seq: milestone.seq,
          then: documentOf(data.records),
          heard: false,
          db: 0,
        }),
      )
  }
  const problem = error ?? loadError
  const tip = useKeyOf('hear-earlier')
  return (
    <section className="mt-4 border-t border-line pt-2" aria-label="Beside">
      <h3 className="text-[13px] font-bold">Beside</h3>
      {problem && <p className="text-gate">{messageOf(problem)}</p>}
      <Choice
        label="Earlier balance"
        value={milestones.find(({ seq }) => seq === compared?.seq)?.id ?? ''}
        options={[
          ['', milestones.length === 0 ? 'None kept yet' : 'None'] as const,
          ...milestones.map(({ id, name }) => [id, name] as const),
        ]}
        onChange={(id) => void choose(id)}
        className="mt-1 w-full"
      />
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {compared && (
          <>
            <Button
              look={compared.heard ? 'gate' : 'plain'}
              aria-pressed={compared.heard}
              title={tip}
              onClick={() => void balance.toggleCompared()}
            >
              {compared.heard ? 'Hear now' : 'Hear it'}
            </Button>
            <Button
              onClick={() => {
                if (dispatch(edit((doc) => recallBalance(doc, { then: compared.then, name: compared.name }))))
                  dispatch(viewActions.compare(null))
              }}
            >
              Take it over
            </Button>
          </>
        )}
        {!keeping && <Button onClick={() => setKeeping(true)}>Keep the present one</Button>}
      </div>
      {compared?.heard && (
        <p className="mt-1 text-[11.5px] text-gate">
          You hear “{compared.name}”, by {signed(compared.db)} dB as loud as now.
        </p>
      )}
      {keeping && (
        <div className="mt-1">
          <NewMilestone onSaved={() => setKeeping(false)} />
        </div>
      )}
    </section>
  )
}
