/** A moment as people say it: day and month, with the time of day where it matters. @param at - ISO 8601 */
export function when(at: string, withTime = false): string {
  return new Date(at).toLocaleString([], {
    day: 'numeric',
    month: 'short',
    ...(withTime ? { hour: '2-digit', minute: '2-digit' } : {}),
  })
}
