import { z } from 'zod'
import { plain, plainText } from '../reel/text.js'
import { FRAME_RATE_IDS } from '../time/rates.js'
import { recipeSchema } from './recipes.js'
import { measuredSchema } from './turnover.js'

/** A path inside a package: relative, with slashes, never leading out of it. */
export const packagePathSchema = plainText(400)
  .min(1)
  .refine(
    (path) =>
      !path.startsWith('/') &&
      !/[\\:]/.test(path) &&
      !path.split('/').some((part) => ['', '.', '..'].includes(part)),
    'leads out of the package',
  )

/** What the files of a turnover are. */
export const FILE_KINDS = ['report', 'list', 'audio', 'movie', 'sound', 'reel'] as const

/** Letters of a title at the most. */
const TITLE = 300
/** A name as it stands in a package: of a track or a recording it may be longer than a title. */
export const shortTitle = (name: string): string => [...plain(name)].slice(0, TITLE / 2).join('')

/** A file of a turnover: where it lies in it, what it is, its size and checksums. */
export const keptFileSchema = z.object({
  path: packagePathSchema,
  kind: z.enum(FILE_KINDS),
  title: plainText(TITLE),
  size: z.int().min(0),
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  /** As ZIP wants it. */
  crc32: z.int().min(0).max(0xffff_ffff),
})

/** A finding as a turnover left with it. */
export const keptFindingSchema = z.object({
  check: z.string(),
  weight: z.enum(['stops', 'mind', 'tells']),
  /** Frames of the reel, or null. */
  at: z.object({ from: z.number(), to: z.number() }).nullable(),
  text: z.string(),
  accepted: z.object({ reason: z.string(), by: z.string() }).nullable(),
})

/** A turnover as it left, without its files. */
export const keptTurnoverSchema = z.object({
  id: z.string(),
  /** Of its reel, from 1. */
  number: z.int(),
  /** Number of the log up to which it holds the reel. */
  seq: z.int(),
  name: z.string(),
  by: z.string(),
  /** When, ISO 8601. */
  at: z.string(),
  recipe: recipeSchema,
  findings: z.array(keptFindingSchema),
  measured: measuredSchema.nullable(),
  /** What the parts of it could not carry, in sentences. */
  remarks: z.array(z.string()),
  files: z.int(),
  size: z.number(),
  /** When its files were thrown away, ISO 8601; null while they are there. */
  cleared: z.string().nullable(),
})

/** A recording in a package. */
export const packedSoundSchema = z.object({
  /** What the records of the package's reel call it. */
  id: plainText(64).min(1),
  path: packagePathSchema,
  name: plainText(TITLE),
  licence: z.string(),
  source: z.string(),
  /** Samples of the recording at 48 kHz that the file holds, `[from, to)`; null when it is the file as it was. */
  part: z.object({ from: z.int().min(0), to: z.int().min(1) }).nullable(),
})

/** The first version that a package can have, and the present one. */
export const PACKAGE_VERSION = 1

/** What a package says of itself. */
export const packageManifestSchema = z.object({
  format: z.literal('yodel-package'),
  version: z.int().min(1),
  /** What made it. */
  maker: z.string(),
  made: z.string(),
  show: z.string(),
  reel: z.string(),
  company: z.string(),
  rate: z.enum(FRAME_RATE_IDS),
  recipe: recipeSchema,
  /** All but the manifest itself. */
  files: z.array(keptFileSchema),
  sounds: z.array(packedSoundSchema),
})

/** A file of a turnover. */
export type KeptFile = z.infer<typeof keptFileSchema>
/** What a file of a turnover is. */
export type FileKind = (typeof FILE_KINDS)[number]
/** A finding as a turnover left with it. */
export type KeptFinding = z.infer<typeof keptFindingSchema>
/** A turnover as it left. */
export type KeptTurnover = z.infer<typeof keptTurnoverSchema>
/** A recording in a package. */
export type PackedSound = z.infer<typeof packedSoundSchema>
/** What a package says of itself. */
export type PackageManifest = z.infer<typeof packageManifestSchema>
