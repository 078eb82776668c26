const parts = new Map<string, number>()

/** How far a movie that is being looked through has come, 0 to 1, by the name that whoever brings it has given the matter; null when nothing of that name is under way. */
export const partLookedThrough = (look: string): number | null => parts.get(look) ?? null

/** Does work that looks a movie through, and lets others see how far it has come. @param look - What it is asked for by; null tells nobody */
export async function lookingThrough<T>(
  look: string | null,
  work: (tell: (part: number) => void) => Promise<T>,
): Promise<T> {
  if (look === null) return work(() => undefined)
  parts.set(look, 0)
  try {
    // Frames stand in a file as they are decoded, not as they are shown: it never goes back.
    return await work((part) => void parts.set(look, Math.max(part, parts.get(look) ?? 0)))
  } finally {
    parts.delete(look)
  }
}
