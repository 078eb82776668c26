import type { z } from 'zod'
import { MOST_SPOKEN, scratchLineSchema } from '../contract/voices.js'
import { plainText } from '../reel/text.js'

/** A line that was said: how, and which words. */
const scratchSchema = scratchLineSchema.extend({ said: plainText(MOST_SPOKEN) })

/** A line that was said: how, and which words. */
export type Scratch = z.infer<typeof scratchSchema>

const known = new Map<string, Scratch | null>()
/** Different lines are as many as a reel has dialogue; beyond that it is begun anew. */
const MOST_KNOWN = 4000

/** The field `scratch` of a clip as it stands in its record, whose fields are all plain values: JSON. */
export const scratchText = ({ text, voice, pace, pitch, said }: Scratch): string =>
  JSON.stringify({ text, voice, pace, pitch, said })

/** The line that a clip says for an actor; null where it is no scratch voice. @param clip.scratch - As {@link scratchText} writes it */
export function scratchIn({ scratch }: { readonly scratch: string }): Scratch | null {
  if (scratch === '') return null
  const before = known.get(scratch)
  if (before !== undefined) return before
  const read = readScratch(scratch)
  if (known.size >= MOST_KNOWN) known.clear()
  known.set(scratch, read)
  return read
}

function readScratch(text: string): Scratch | null {
  try {
    return scratchSchema.safeParse(JSON.parse(text)).data ?? null
  } catch {
    return null
  }
}
