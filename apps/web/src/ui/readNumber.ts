/** A number as people type it, with a comma or a real minus sign as well; null when it is none. */
export function readNumber(text: string): number | null {
  const typed = Number(text.trim().replace(',', '.').replace('−', '-'))
  return text.trim() === '' || !Number.isFinite(typed) ? null : typed
}
