import { z } from 'zod'
import { plainText } from './text.js'
import type { Frames, Samples } from '../time/units.js'
import { FRAME_RATE_IDS } from '../time/rates.js'
import { insertSchema } from './inserts.js'
import { CATEGORIES } from './categories.js'
import { channelChoiceSchema } from '../sounds/channels.js'
import { isTreatment } from '../treatment/clipTreatment.js'
import { scratchIn } from '../voices/scratch.js'

const id = plainText(64).min(1)
const words = plainText(2000)
const frame = asFrames(z.int().min(0).max(10_000_000))
const sample = asSamples(
  z
    .int()
    .min(0)
    .max(2 ** 46),
)
/** A schema of whole numbers whose values are frames, or samples. */
function asFrames(schema: z.ZodInt): z.ZodType<Frames, Frames> {
  return schema as unknown as z.ZodType<Frames, Frames>
}
function asSamples(schema: z.ZodInt): z.ZodType<Samples, Samples> {
  return schema as unknown as z.ZodType<Samples, Samples>
}
/** The fastest that a sound can go past, in metres a second, and how near and far it can pass, in metres. */
export const PASSES = { fastest: 120, nearest: 0.5, farthest: 500, usual: 5 } as const

const run = z
  .int()
  .min(0)
  .max(2 ** 46)
const passSpeed = z.number().min(-PASSES.fastest).max(PASSES.fastest)
const passDistance = z.number().min(PASSES.nearest).max(PASSES.farthest)
const decibels = z.number().min(-96).max(24)

/** The speeds at which a recording can be played; 1 is its own. */
export const SPEEDS = { slowest: 0.25, fastest: 4 } as const

/** How a fade runs between silence and full level; `power` keeps the power of two crossfaded sounds constant. */
export const fadeShapeSchema = z.enum(['linear', 'power', 's'])

/** Left and right as recorded, exchanged, or both the sum of both. */
export const sidesSchema = z.enum(['kept', 'swapped', 'summed'])

/** How a placed sound moves: over how many samples its speed rises from rest and falls to it, and how it goes past. */
export const movementSchema = z.object({ runUp: run, runDown: run, passSpeed, passDistance })

/** What a placed sound says of itself in texts of a kind: both are JSON, or empty. */
export const ownTextsSchema = z.object({
  /** The line that a machine says here until the actor does, see voices/scratch; empty for everything else. */
  scratch: plainText(12_000)
    .refine((scratch) => scratch === '' || scratchIn({ scratch }) !== null, 'is no line of a scratch voice')
    .default(''),
  /** The treatment that it has of its own, see treatment/clipTreatment; empty for none. */
  treatment: plainText(6000).refine(isTreatment, 'is no treatment of a sound').default(''),
})

/** A sound that runs evenly and stays where it is. */
export const STILL: z.infer<typeof movementSchema> = {
  ...{ runUp: 0, runDown: 0, passSpeed: 0, passDistance: PASSES.usual },
}

/** States a person gives a cue; how far it is covered by sounds is computed, not typed. */
export const cueStateSchema = z.enum(['open', 'work', 'ready', 'approved', 'omitted'])

/** The facts of a reel, fixed once and shown always. */
export const reelSchema = z.object({
  kind: z.literal('reel'),
  id,
  show: words,
  name: words,
  rate: z.enum(FRAME_RATE_IDS),
  /** Timecode of the reel's first frame (the head of its leader), in frames since 00:00:00:00. */
  firstFrame: asFrames(z.int().min(0).max(6_000_000)),
  /** First frame of the programme, counted from the reel's first frame. */
  programme: frame,
  /** Length of the reel in frames. */
  length: asFrames(z.int().min(1).max(6_000_000)),
  /** Media id of the picture that is current, or null; its place on the reel stands in its cut. */
  pictureId: id.nullable(),
  company: words,
  /** How files are named: `{company}`, `{show}`, `{reel}`, `{date}`, `{function}` and anything between them. */
  nameRule: plainText(200),
})

/** A version of the picture. */
export const cutSchema = z.object({
  kind: z.literal('cut'),
  id,
  pictureId: id,
  name: words.min(1),
  /** Frame of the reel at which the movie's first frame stands; negative when its head is cut off. */
  offset: asFrames(z.int().min(-6_000_000).max(6_000_000)),
})

/** One line of the spotting sheet. Frames count from the reel's first frame; the span is `[in, out)`. */
export const cueSchema = z.object({
  kind: z.literal('cue'),
  id,
  category: z.enum(CATEGORIES),
  number: z.int().min(1).max(99_999),
  in: frame,
  out: frame,
  /** The frame that a sound's sync point must meet. */
  sync: frame,
  words,
  source: words,
  where: words,
  scene: words,
  onScreen: z.enum(['on', 'off', 'unsaid']),
  perspective: z.enum(['close', 'medium', 'far', 'unsaid']),
  notes: words,
  priority: z.int().min(0).max(3),
  by: words,
  state: cueStateSchema,
  omitReason: words,
})

/** Inks of a track: that of its category, or one of four that no category has. */
export const TRACK_INKS = ['category', 'slate', 'moss', 'wine', 'umber'] as const

/** A track of the reel. `order` is a fractional key among its siblings. */
export const trackSchema = z.object({
  kind: z.literal('track'),
  id,
  name: words.min(1),
  category: z.enum(CATEGORIES),
  order: plainText(200).min(1),
  level: decibels,
  /** -1 left to 1 right. */
  pan: z.number().min(-1).max(1),
  mute: z.boolean(),
  solo: z.boolean(),
  /** The ink of its head and sounds: that of its category, or one of its own. */
  ink: z.enum(TRACK_INKS),
  /** On a mono track everything is summed before its treatment. */
  width: z.enum(['mono', 'stereo']),
  /** Neighbours with the same word here are folded together; empty for none. */
  folder: plainText(200),
  /** Its column on paper, from 1, once the order is frozen; 0 while it is printed where it stands. */
  column: z.int().min(0).max(10_000),
})

/** A placed sound. All lengths are samples at 48 kHz; `start` counts from the reel's first frame. */
export const clipSchema = z.object({
  kind: z.literal('clip'),
  id,
  trackId: id,
  cueId: id.nullable(),
  soundId: id,
  name: words,
  start: sample,
  length: asSamples(
    z
      .int()
      .min(1)
      .max(2 ** 46),
  ),
  /** First sample of the recording that is heard. */
  offset: sample,
  /** Sync point as a sample of the recording; it need not lie inside the part that is heard. */
  sync: sample,
  /** Length of the whole recording, so that trimming can be checked without it. */
  recorded: asSamples(
    z
      .int()
      .min(1)
      .max(2 ** 46),
  ),
  gain: decibels,
  fadeIn: sample,
  fadeOut: sample,
  fadeInShape: fadeShapeSchema,
  fadeOutShape: fadeShapeSchema,
  mute: z.boolean(),
  /** 2 is twice as fast. All lengths above are those of the recording as it is played. */
  speed: z.number().min(SPEEDS.slowest).max(SPEEDS.fastest),
  /** The pitch stays where it is, whatever the speed. */
  keepPitch: z.boolean(),
  reverse: z.boolean(),
  sides: sidesSchema,
  /** Which channels of the recording are heard; see sounds/channels. Packages made before there was a choice don't say. */
  channels: channelChoiceSchema.default(''),
  /** Samples over which its speed rises from rest at its beginning, and falls to rest at its end. */
  runUp: run.default(0),
  runDown: run.default(0),
  /** Metres a second with which it goes past the listener, from left to right, negative from right to left; 0 stays. It passes at its sync point. */
  passSpeed: passSpeed.default(0),
  /** Metres at which it passes. */
  passDistance: passDistance.default(PASSES.usual),
  ...ownTextsSchema.shape,
  /** Clips of one group are chosen together; empty for none. Those of a stack have its id. */
  group: plainText(64),
  /** Nothing of it but this and its mute can be changed. */
  locked: z.boolean(),
})

/** How a ride runs from a point to the next: straight, slow at both ends, or not at all until it jumps. */
export const RIDE_BENDS = ['straight', 's', 'hold'] as const

/** A point of a ride: where a track's level or place stands at a moment, and how it goes on to the next. */
export const ridePointSchema = z.object({
  kind: z.literal('ride'),
  id,
  trackId: id,
  what: z.enum(['level', 'pan']),
  /** Samples from the reel's first frame. */
  at: sample,
  /** Level: decibels above the track's own, -96 to 24. Pan: -1 left to 1 right, in place of the track's own. */
  value: z.number().min(-96).max(24),
  bend: z.enum(RIDE_BENDS),
})

/** A sound on the shortlist of a cue, or a part of one. */
export const candidateSchema = z.object({
  kind: z.literal('candidate'),
  id,
  cueId: id,
  soundId: id,
  name: words,
  /** A fractional key within the shortlist: the lowest is first choice. */
  order: plainText(200).min(1),
  remark: words,
  /** The part of the file that is meant and its sync point, in samples of the file; null where the sound's own are. */
  in: sample.nullable(),
  out: sample.nullable(),
  sync: sample.nullable(),
  /** Which take of the cue it is where it was recorded for it, from 1 on; 0 for every other sound. */
  take: z.int().min(0).max(9999).default(0),
})

/** A note or question to a colleague, or an answer to one (`replyTo`). */
export const noteSchema = z.object({
  kind: z.literal('note'),
  id,
  cueId: id.nullable(),
  /** Where it was left; a note on a cue stands at the cue. */
  frame,
  words: words.min(1),
  author: words,
  /** Whom it is for, or empty for everybody. */
  to: words,
  question: z.boolean(),
  closed: z.boolean(),
  replyTo: id.nullable(),
  /** When it was written, ISO 8601. */
  at: plainText(40),
})

/** A finding of a turnover that somebody has accepted, with the reason; see turnover/checks. */
export const acceptanceSchema = z.object({
  kind: z.literal('acceptance'),
  id,
  /** Which check found it. */
  check: plainText(32).min(1),
  /** Ids of the records that it speaks of, one blank between. */
  about: words,
  /** A digest of what it spoke of: when that has changed, it was not this that was accepted. */
  stand: plainText(32),
  reason: words.min(1),
  by: words,
  /** When, ISO 8601. */
  at: plainText(40),
})

/** The layers that together serve one cue, as one thing: the clips whose group has its id. */
export const stackSchema = z.object({
  kind: z.literal('stack'),
  id,
  name: words.min(1),
  /** The plan of the show by which it was made; empty when it was made by hand. */
  planId: plainText(64),
  /** Which of the plan's variations it is; see stacks/seeds. */
  variation: plainText(1000),
})

/** Any record of a reel document. */
export const recordSchema = z.discriminatedUnion('kind', [
  reelSchema,
  cutSchema,
  cueSchema,
  trackSchema,
  clipSchema,
  noteSchema,
  ridePointSchema,
  insertSchema,
  candidateSchema,
  acceptanceSchema,
  stackSchema,
])

/** Kinds of records, in the order in which a document lists them. */
export const RECORD_KINDS = [
  'reel',
  'cut',
  'cue',
  'track',
  'clip',
  'note',
  'ride',
  'insert',
  'candidate',
  'acceptance',
  'stack',
] as const

/** Shape of a fade. */
export type FadeShape = z.infer<typeof fadeShapeSchema>
/** State of a cue. */
export type CueState = z.infer<typeof cueStateSchema>
/** Facts of a reel. */
export type Reel = z.infer<typeof reelSchema>
/** A version of the picture. */
export type Cut = z.infer<typeof cutSchema>
/** A note, a question or an answer. */
export type Note = z.infer<typeof noteSchema>
/** A cue. */
export type Cue = z.infer<typeof cueSchema>
/** A track. */
export type Track = z.infer<typeof trackSchema>
/** How a placed sound moves. */
export type Movement = z.infer<typeof movementSchema>
/** A placed sound. */
export type Clip = z.infer<typeof clipSchema>
/** A sound on a shortlist. */
export type Candidate = z.infer<typeof candidateSchema>
/** An accepted finding. */
export type Acceptance = z.infer<typeof acceptanceSchema>
/** A stack. */
export type Stack = z.infer<typeof stackSchema>
/** How a ride runs from one of its points to the next. */
export type RideBend = (typeof RIDE_BENDS)[number]
/** A point of a ride. */
export type RidePoint = z.infer<typeof ridePointSchema>
/** Any record. */
export type ReelRecord = z.infer<typeof recordSchema>
/** The word that tells records apart. */
export type RecordKind = ReelRecord['kind']
