import { useAppSelector } from '../../document/store.js'
import { saveStateOf, type SyncState } from '../../document/sync/syncState.js'

/** Whether everything is on the server; and where it isn't, what holds it up and whether it would outlive this page. */
export function SaveMark() {
  const state = useAppSelector(({ document }) => document)
  const save = saveStateOf(state)
  const { text, title } = words(state)
  const calm = save === 'saving' || (save === 'saved' && state.aside.length === 0)
  return (
    <span
      role="status"
      data-save={save}
      data-kept={state.disk}
      className={calm ? '' : 'font-semibold text-gate'}
      title={title}
    >
      {text}
    </span>
  )
}

function words(state: SyncState): { text: string; title?: string } {
  const { pending, aside, savedAt, disk } = state
  const waiting = pending.length
  const here = disk === 'failed' ? `${waiting} only in this page` : `${waiting} kept here`
  const unkept = 'This browser can’t write them to its own disk: leave this page open until they are sent.'
  const kept =
    disk === 'failed'
      ? unkept
      : 'What you do is kept in this browser, and sent as soon as it can be while the reel is open here.'
  switch (saveStateOf(state)) {
    case 'saved':
      if (aside.length > 0)
        return {
          text: `${aside.length} not saved`,
          title:
            'All the rest is on the server. The history, at the right of the Sheet, says what could not be saved, and why.',
        }
      return { text: `Saved ${savedAt ? hour(savedAt) : ''}` }
    case 'saving':
      return { text: 'Saving …' }
    case 'away':
      return {
        text: waiting > 0 ? `Server away, ${here}` : 'Server away',
        title: `The server does not answer, or not as it should. ${kept}`,
      }
    case 'full':
      return { text: `Server’s disk full, ${here}`, title: `The server has no room to write. ${kept}` }
    case 'missing':
      return {
        text: waiting > 0 ? `Not on the server, ${here}` : 'Not on the server',
        title: `This reel is not on the server any more. What you did last is kept in this browser.`,
      }
  }
}

const two = (part: number): string => String(part).padStart(2, '0')
const hour = (at: string): string => `${two(new Date(at).getHours())}:${two(new Date(at).getMinutes())}`
