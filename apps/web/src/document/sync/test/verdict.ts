import { apply, recordsOf, sameRecord, stacksFromLog, type ReelDocument } from '@yodel/core'
import { saveStateOf } from '../syncState.js'
import type { ModelPage } from './ModelPage.js'
import type { ModelWorld } from './ModelWorld.js'

/** What is wrong with a page at this moment, or null. */
export function wrongNow({ state }: ModelPage): string | null {
  let { doc } = state.settled
  for (const item of state.pending) {
    const next = apply(doc, item.change)
    if (!next.ok) return `what waits does not fit: ${next.message}`
    doc = next.value
  }
  if (!sameDoc(doc, state.doc)) return 'the document is not what is settled with what waits done on it'
  if (state.phase === 'open' && saveStateOf(state) === 'saved' && state.pending.length > 0)
    return 'it says saved and is not'
  return null
}

/** What is wrong once everything has come to rest, or null. */
export function wrongAtRest(world: ModelWorld): string | null {
  const { log } = world
  const ids = log.entries.map((entry) => entry.changeId)
  if (new Set(ids).size !== ids.length) return 'a change is in the log twice'
  const aside = new Set(world.pages.flatMap((page) => page.state.aside.map((one) => one.changeId)))
  for (const page of world.pages) {
    if (!sameDoc(page.state.doc, log.doc)) return 'a page has drifted from the log'
    const { undo, redo } = stacksFromLog(
      log.entries.map((entry) => ({ ...entry, label: entry.change.label })),
      page.me,
    )
    const mine = [page.state.undo, page.state.redo].map((acts) => acts.map((act) => act.seq))
    if (!page.passedOver && JSON.stringify(mine) !== JSON.stringify([undo, redo]))
      return 'the stacks of undo and redo are not the log’s'
  }
  return lostIn(world, new Set(ids), aside)
}

/** A change that was on disk or never left its page, and is neither in the log nor set aside, nor is what it was done again as. */
function lostIn(world: ModelWorld, logged: ReadonlySet<string>, aside: ReadonlySet<string>): string | null {
  const isKept = (id: string): boolean =>
    logged.has(id) ||
    aside.has(id) ||
    world.unkept.has(id) ||
    (world.retried.get(id) ?? []).some((again) => isKept(again))
  const wantedOut = new Set(
    world.pages.flatMap(({ state }) =>
      state.aside.flatMap(({ change }) => change.removed.map(({ id }) => id)),
    ),
  )
  for (const page of [...world.pages, ...world.gone]) {
    for (const { changeId, change } of page.did) {
      if (isKept(changeId)) continue
      // What takes out a cue that is out already, whose making was set aside, or that another change which was set
      // aside wanted out as well, has nothing left to do.
      const hadNothing = ({ id }: { id: string }): boolean =>
        world.log.isGone(id) || world.retried.has(id.slice('cue'.length)) || wantedOut.has(id)
      if (change.removed.length > 0 && change.removed.every(hadNothing)) continue
      return `“${change.label}” (${changeId}) is lost`
    }
  }
  return null
}

function sameDoc(a: ReelDocument, b: ReelDocument): boolean {
  if (a === b) return true
  const records = recordsOf(a)
  if (records.length !== recordsOf(b).length) return false
  return records.every((record) => {
    const other = b[record.kind].get(record.id)
    return other === record || (other !== undefined && sameRecord(record, other))
  })
}
