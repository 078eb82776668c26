import { z } from 'zod'
import { plainText } from '../reel/text.js'

/** Letters that a scratch line may have: some three minutes of speech. */
export const MOST_SPOKEN = 2000

/** Words a minute that a voice can be asked for, and what is usual. */
export const PACES = { slowest: 80, fastest: 400, usual: 170 } as const

/** Steps by which a voice can be lower or higher than it is. */
export const VOICE_STEPS = 10

/** A line that a machine says until the actor does. */
export const scratchLineSchema = z.object({
  /** What is said; empty for the words of its cue. */
  text: plainText(MOST_SPOKEN),
  /** Name of a voice, as {@link voiceSchema} has it. */
  voice: plainText(120).min(1),
  /** Words a minute, or as long as the cue from its sync to its out. */
  pace: z.union([z.literal('cue'), z.number().min(PACES.slowest).max(PACES.fastest)]),
  /** Lower (negative) or higher than the voice is by itself. */
  pitch: z.int().min(-VOICE_STEPS).max(VOICE_STEPS),
})

/** A voice that a machine has. */
export const voiceSchema = z.object({
  /** What it is chosen by: engine and voice, `espeak-ng en-gb`. */
  name: z.string(),
  /** What a person reads. */
  called: z.string(),
  /** BCP 47: `en-GB`. */
  language: z.string(),
  sex: z.enum(['woman', 'man', 'unsaid']),
  engine: z.string(),
})

/** The voices that there are, and what stands in the way of others, in words. */
export const voicesSchema = z.object({ voices: z.array(voiceSchema), missing: z.array(z.string()) })

/** What is to be said, and how long it is to take where that is the cue's business. */
export const sayingSchema = z.object({
  /** With its text: what is empty stands for a cue's words in a reel only. */
  line: scratchLineSchema.extend({ text: scratchLineSchema.shape.text.trim().min(1) }),
  /** Seconds from the cue's sync to its out; null where the pace is in words a minute. */
  seconds: z.number().min(0).max(3600).nullable(),
})

/** A line that a machine says until the actor does. */
export type ScratchLine = z.infer<typeof scratchLineSchema>
/** A voice that a machine has. */
export type Voice = z.infer<typeof voiceSchema>
/** The voices that there are. */
export type Voices = z.infer<typeof voicesSchema>
/** What is to be said. */
export type Saying = z.infer<typeof sayingSchema>
