import { readFileSync } from 'node:fs'
import { z } from 'zod'
import { reasonOf } from '../errors.js'
import type { VoiceEngine } from './VoiceEngine.js'

const text = z.string().min(1).max(400)

/** Engines of one's own, as the file says them that YODEL_VOICES names. */
const enginesSchema = z.array(
  z.object({
    name: z.string().regex(/^[\w.-]{1,40}$/, 'letters, digits, dots and dashes only'),
    command: text,
    /** With {text}, {out}, {voice}, {stretch}, {pace} and {semitones} where those belong. */
    args: z
      .array(z.string())
      .refine((args) => args.some((arg) => arg.includes('{text}')), 'nothing stands for the text: {text}')
      .refine((args) => args.some((arg) => arg.includes('{out}')), 'nothing stands for the file: {out}'),
    usualPace: z.number().min(20).max(600).default(170),
    voices: z
      .array(
        z.object({
          id: text,
          called: text,
          language: text,
          sex: z.enum(['woman', 'man', 'unsaid']).default('unsaid'),
        }),
      )
      .min(1),
  }),
)

/**
 * Reads the engines of one's own.
 *
 * @param file - JSON, a list of engines; null for none
 * @throws Error that names the file, the place in it and what is wrong there
 */
export function ownEngines(file: string | null): VoiceEngine[] {
  if (file === null) return []
  let said: unknown
  try {
    said = JSON.parse(readFileSync(file, 'utf8'))
  } catch (error) {
    throw new Error(`YODEL_VOICES: ${file} can't be read as JSON: ${reasonOf(error)}`, { cause: error })
  }
  const read = enginesSchema.safeParse(said)
  if (!read.success) {
    const lines = read.error.issues.map(({ path, message }) => `  ${path.join('.')}: ${message}`)
    throw new Error(`YODEL_VOICES: ${file} is not as it should be:\n${lines.join('\n')}`)
  }
  return read.data.map(({ name, command, args, usualPace, voices }) => ({
    ...{ name, command, usualPace, otherwise: `see ${file}`, listArgs: null, voicesIn: () => voices },
    sayArgs: ({ voice, stretch, semitones, textFile, out }) => {
      const values: Record<string, string> = {
        ...{ text: textFile, out, voice, stretch: stretch.toFixed(4), semitones: String(semitones) },
        pace: String(Math.round(usualPace / stretch)),
      }
      return args.map((arg) =>
        arg.replace(/\{(text|out|voice|stretch|pace|semitones)\}/g, (_, what: string) => values[what] ?? ''),
      )
    },
  }))
}
