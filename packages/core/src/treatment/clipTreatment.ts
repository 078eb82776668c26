import { z } from 'zod'
import { EFFECT_NAMES, EFFECTS, type Effect, type Insert, type PlaceId } from '../reel/inserts.js'
import { PLACE_SPECS } from './place/places.js'

/** Pieces that a sound of its own can have; those that look ahead would make it late beside the others of its track. */
export const CLIP_EFFECTS = [
  'equaliser',
  'compressor',
  'reverb',
  'delay',
  'place',
] as const satisfies Effect[]
/** One of {@link CLIP_EFFECTS}. */
export type ClipEffect = (typeof CLIP_EFFECTS)[number]

/** Pieces that one sound can have. */
export const MOST_PIECES = 6

const bypass = z.boolean()
const pieceSchema = z.discriminatedUnion('effect', [
  EFFECTS.equaliser.extend({ bypass, effect: z.literal('equaliser') }),
  EFFECTS.compressor.extend({ bypass, effect: z.literal('compressor') }),
  EFFECTS.reverb.extend({ bypass, effect: z.literal('reverb') }),
  EFFECTS.delay.extend({ bypass, effect: z.literal('delay') }),
  EFFECTS.place.extend({ bypass, effect: z.literal('place') }),
])
const piecesSchema = z.array(pieceSchema).max(MOST_PIECES)

/** A piece of a sound's own treatment, but for what makes it a record. */
export type ClipPiece = z.infer<typeof pieceSchema>

/** Treatments that are read already, by their texts; beyond so many they are read anew. */
const known = new Map<string, readonly Insert[] | null>()
const MOST_KNOWN = 4000

/** The field `treatment` of a clip, whose fields are all plain values: JSON; '' for none. */
export const treatmentText = (pieces: readonly ClipPiece[]): string =>
  pieces.length === 0 ? '' : JSON.stringify(pieces)

/** Says whether a text is a sound's own treatment. */
export const isTreatment = (text: string): boolean => text === '' || read(text) !== null

/**
 * A sound's own treatment from first to last, as pieces of treatment whose ids are their places; the same ones for the same text.
 *
 * @param clip.treatment - As {@link treatmentText} writes it
 */
export function treatmentIn({ treatment }: { readonly treatment: string }): readonly Insert[] {
  return treatment === '' ? NONE : (read(treatment) ?? NONE)
}

/** What a voice has of a treatment that sounds: nothing at all where there is none. @param key - The same for the same sound in the next plan */
export function treatedBy(treatment: string, key: string): { inserts?: readonly Insert[]; key?: string } {
  if (treatment === '') return {}
  const inserts = treatmentIn({ treatment }).filter(({ bypass }) => !bypass)
  return inserts.length > 0 ? { inserts, key } : {}
}

/** The treatment that puts a sound into a place, as far as the amount says, 0 to 1. */
export function placeTreatment(place: PlaceId, amount: number): string {
  const { distance } = PLACE_SPECS[place]
  return treatmentText([{ effect: 'place', bypass: false, place, amount, size: 1, distance, broken: 0.5 }])
}

/** The pieces of {@link treatmentIn} as they are kept. */
export const piecesOf = (inserts: readonly Insert[]): ClipPiece[] =>
  inserts.map(({ kind: _kind, id: _id, on: _on, order: _order, ...piece }) => piece as ClipPiece)

/** What a sound's own treatment is called: "Telephone 80 %, Equaliser (off)"; '' for none. */
export const treatmentWords = (clip: { readonly treatment: string }): string =>
  treatmentIn(clip)
    .map((insert) => {
      const name =
        insert.effect === 'place'
          ? `${PLACE_SPECS[insert.place].name} ${Math.round(100 * insert.amount)} %`
          : EFFECT_NAMES[insert.effect]
      return insert.bypass ? `${name} (off)` : name
    })
    .join(', ')

const NONE: readonly Insert[] = []

function read(text: string): readonly Insert[] | null {
  const before = known.get(text)
  if (before !== undefined) return before
  const pieces = parsed(text)
  const inserts =
    pieces?.map((piece, index) => ({
      ...({ kind: 'insert', id: String(index), on: 'clip', order: String(index) } as const),
      ...piece,
    })) ?? null
  if (known.size >= MOST_KNOWN) known.clear()
  known.set(text, inserts)
  return inserts
}

function parsed(text: string): ClipPiece[] | null {
  try {
    return piecesSchema.safeParse(JSON.parse(text)).data ?? null
  } catch {
    return null
  }
}
