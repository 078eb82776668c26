import { FRAME_RATES } from '@yodel/core'
import { useAppSelector } from '../../app/store.js'
import { Chip } from '../../ui/Button.js'
import { saveStateOf } from './documentSlice.js'
import { useReel } from './session.js'

/** Show, reel and rate, for the bar on top. */
export function ReelWhere() {
  const reel = useReel()
  return (
    <>
      <span className="truncate">{reel.show}</span>
      <span>/</span>
      <b className="font-semibold whitespace-nowrap text-ink">{reel.name}</b>
      <Chip className="font-mono">{FRAME_RATES[reel.rate].label}</Chip>
    </>
  )
}

/** Whether everything is on the server. */
export function SaveMark() {
  const state = useAppSelector(({ document }) => document)
  const { savedAt, pending } = state
  const save = saveStateOf(state)
  const time = savedAt
    ? new Date(savedAt).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })
    : ''
  return (
    <span
      role="status"
      data-save={save}
      className={save === 'away' ? 'font-semibold text-gate' : ''}
      title={
        save === 'away'
          ? 'The server does not answer. What you do is kept in this browser and sent when it is back.'
          : undefined
      }
    >
      {save === 'saved'
        ? `Saved ${time}`
        : save === 'saving'
          ? 'Saving …'
          : `Server away, ${pending.length} kept here`}
    </span>
  )
}
