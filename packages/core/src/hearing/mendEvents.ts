import type { SoundEvent } from '../contract/sounds.js'

/**
 * Finds the first event that does not fit: each begins after the one before has ended, at or before its attack, and
 * ends within the recording.
 *
 * @param length - Of the recording, in samples.
 * @returns Its index, or -1 when all fit.
 */
export function misfitOf(events: readonly SoundEvent[], length: number): number {
  return events.findIndex(
    ([start, sync, end], index) =>
      start > sync || sync >= end || end > length || start < (events[index - 1]?.[2] ?? 0),
  )
}

/** Joins an event with the one before, whose attack stays; the first one stays as it is. */
export function joinWithBefore(events: readonly SoundEvent[], at: number): SoundEvent[] {
  const [before, event] = [events[at - 1], events[at]]
  if (!before || !event) return [...events]
  return events.toSpliced(at - 1, 2, [before[0], before[1], event[2]])
}

/** Leaves one event out. */
export const leaveOut = (events: readonly SoundEvent[], at: number): SoundEvent[] => events.toSpliced(at, 1)

/**
 * Draws an event anew, as far as its neighbours leave room.
 *
 * @param drawn - Its new bounds in samples, and its attack, which is brought within them; at its start when null.
 * @param length - Of the recording, in samples.
 */
export function redraw(
  events: readonly SoundEvent[],
  at: number,
  drawn: { readonly in: number; readonly out: number; readonly sync: number | null },
  length: number,
): SoundEvent[] {
  const start = Math.max(drawn.in, events[at - 1]?.[2] ?? 0)
  const end = Math.min(drawn.out, events[at + 1]?.[0] ?? length)
  return events.toSpliced(at, 1, [start, Math.max(start, Math.min(drawn.sync ?? start, end - 1)), end])
}
