import { FRAME_RATES, formatTimecode, readEntry, type Frames } from '@yodel/core'
import { useAppDispatch } from '../../document/store.js'
import { TextField } from '../../ui/TextField.js'
import { useReel } from '../../session/session.js'
import { viewActions } from '../../document/viewSlice.js'

/**
 * A position of the reel as timecode, typed as editors type it (`10.05`, `+12`).
 *
 * @param frame - Counted from the reel's first frame, as is what `onCommit` gets.
 */
export function TimeField({
  label,
  frame,
  onCommit,
}: {
  label: string
  frame: number
  onCommit: (frame: number) => boolean
}) {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const rate = FRAME_RATES[reel.rate]
  const commit = (text: string): boolean => {
    const entry = readEntry(text, (reel.firstFrame + frame) as Frames, rate)
    const inside = entry.ok && entry.frame >= reel.firstFrame && entry.frame <= reel.firstFrame + reel.length
    if (entry.ok && inside) return onCommit(entry.frame - reel.firstFrame)
    dispatch(
      viewActions.notify({
        tone: 'problem',
        text: entry.ok ? `${formatTimecode(entry.frame, rate)} lies outside the reel.` : entry.message,
      }),
    )
    return false
  }
  return (
    <TextField
      label={label}
      value={formatTimecode(reel.firstFrame + frame, rate)}
      className="font-mono !w-[104px]"
      onCommit={commit}
    />
  )
}
