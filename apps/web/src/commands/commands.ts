import type { AppStore } from '../document/store.js'
import { turn } from '../document/edit.js'
import type { Session } from '../session/session.js'
import { balanceCommands } from './balance.js'
import { makeContext } from './context.js'
import { doingCommands } from './doing.js'
import { draftCommands } from './draft.js'
import { eventCommands } from './events.js'
import { findingCommands } from './findings.js'
import { gateCommands } from './gate.js'
import { listCommands } from './lists.js'
import { lookingCommands } from './looking.js'
import { movingCommands } from './moving.js'
import { performingCommands } from './performing.js'
import { recordingCommands } from './recording.js'
import { ridingCommands } from './riding.js'
import { selectingCommands } from './selecting.js'
import { shapingCommands } from './shaping.js'
import { shortlistCommands } from './shortlist.js'
import { spottingCommands } from './spotting.js'
import { stackCommands } from './stacks.js'
import { swappingCommands } from './swapping.js'
import { trackCommands } from './tracks.js'
import { tryingCommands } from './trying.js'
import { voiceCommands } from './voices.js'

/** Everything an editor can do to a reel, in groups, by whatever hand: keys, buttons and menus all call these. */
export type Commands = ReturnType<typeof makeCommands>

/** Makes the commands of a session, over one context. */
export function makeCommands(store: AppStore, session: Session) {
  const context = makeContext(store, session)
  const gate = gateCommands(context)
  const spot = spottingCommands(context, gate)
  const tries = tryingCommands(context)
  const shortlist = shortlistCommands(context, tries)
  const rides = ridingCommands(context)
  const stacks = stackCommands(context, tries)
  const draft = draftCommands(context)
  const move = movingCommands(context)
  const record = recordingCommands(context, tries)
  return {
    doing: doingCommands(context, { rides, tries, stacks, draft, shortlist, spot, move, record }),
    look: lookingCommands(context),
    move,
    draft,
    spot,
    gate,
    shape: shapingCommands(context),
    select: selectingCommands(context),
    tries,
    shortlist,
    stacks,
    swap: swappingCommands(context, stacks),
    events: eventCommands(context),
    rides,
    perform: performingCommands(context),
    record,
    tracks: trackCommands(context),
    balance: balanceCommands(context),
    findings: findingCommands(context),
    voices: voiceCommands(context),
    lists: listCommands(context),
    undo: () => context.dispatch(turn('undo')),
    redo: () => context.dispatch(turn('redo')),
  }
}
