import { z } from 'zod'
import { plainText } from '../reel/text.js'

/** Lists that can go out, with the ending of their file. */
export const LISTS = {
  cuesPdf: { title: 'Spotting sheet', ending: 'pdf' },
  cuesXlsx: { title: 'Spotting sheet', ending: 'xlsx' },
  cuesCsv: { title: 'Spotting sheet', ending: 'csv' },
  mixPdf: { title: 'Mix cue sheet', ending: 'pdf' },
  edl: { title: 'Clips by track and category', ending: 'edl' },
  otio: { title: 'Tracks and clips', ending: 'otio' },
  adl: { title: 'Clips to the sample', ending: 'adl' },
  clipsCsv: { title: 'Clips', ending: 'csv' },
} as const satisfies Record<string, { title: string; ending: string }>

/** One of {@link LISTS}. */
export type ListKind = keyof typeof LISTS
const LIST_KINDS = Object.keys(LISTS) as [ListKind, ...ListKind[]]

/** Sizes of paper, in points, upright (ISO 216; ANSI/ASME Y14.1 for Letter; Legal is US practice). */
export const PAPERS = {
  A4: [595.28, 841.89],
  A3: [841.89, 1190.55],
  Letter: [612, 792],
  Legal: [612, 1008],
} as const satisfies Record<string, readonly [number, number]>

/** One of {@link PAPERS}. */
export type PaperSize = keyof typeof PAPERS
const PAPER_SIZES = Object.keys(PAPERS) as [PaperSize, ...PaperSize[]]

/** How the mix cue sheet is laid out. */
export const sheetPaperSchema = z.object({
  size: z.enum(PAPER_SIZES),
  landscape: z.boolean(),
  /** Tracks on one sheet. */
  tracks: z.int().min(1).max(24),
  /** Empty time is folded away, or each page shows the same number of seconds. */
  way: z.enum(['packed', 'scale']),
  /** Seconds on a page drawn to scale. */
  seconds: z.number().min(2).max(3600),
})

/** How the mix cue sheet is laid out. */
export type SheetPaper = z.infer<typeof sheetPaperSchema>

/** What a recipe for a turnover says goes out, and how. */
export const recipeSchema = z.object({
  name: plainText(80).min(1),
  /** Which audio: the stereo mix, a stem a category, a file a track. */
  mix: z.boolean(),
  stems: z.boolean(),
  tracks: z.boolean(),
  /** Files begin at the head of the leader (the reel's first frame) or at the programme. */
  from: z.enum(['leader', 'programme']),
  /** 1 kHz, one frame long, two seconds before the programme, into each file. */
  twoPop: z.boolean(),
  /** Treatment that is in the audio. */
  treatment: z.object({ tracks: z.boolean(), stems: z.boolean(), whole: z.boolean() }),
  /** Highest true peak, dBTP; null where none is asked for. Checked, never applied. */
  truePeak: z.number().min(-40).max(0).nullable(),
  /** Loudness in LUFS and how far from it is near enough, in LU; null where none is asked for. Checked, never applied. */
  loudness: z.object({ target: z.number().min(-60).max(0), tolerance: z.number().min(0).max(20) }).nullable(),
  lists: z.array(z.enum(LIST_KINDS)).max(LIST_KINDS.length),
  paper: sheetPaperSchema,
  /** Sounds in use: none, whole files, or only what is heard with handles. */
  sounds: z.enum(['none', 'whole', 'cut']),
  /** Seconds of recording wanted before and after each sound. */
  handles: z.number().min(0).max(60),
  /** The movie with the new sound: none; the picture's own stream with PCM (MOV) or AAC (MP4); timecode and cue burnt in. */
  movie: z.enum(['none', 'mov', 'mp4', 'burnt']),
  /** How files are named; empty for the reel's rule. */
  nameRule: plainText(200),
})

/** What a recipe for a turnover says. */
export type Recipe = z.infer<typeof recipeSchema>

/** A recipe as it is kept: by its show, or one that ships. */
export const keptRecipeSchema = recipeSchema.extend({ id: z.string(), ships: z.boolean() })
/** A recipe as it is kept. */
export type KeptRecipe = z.infer<typeof keptRecipeSchema>
