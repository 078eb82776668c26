import type { Change, KeptFile, KeptFinding, LogEntry, Measured, Recipe, ReelRecord, Span } from '@yodel/core'
import { EntitySchema } from 'typeorm'
import type { MovieSound } from '../pictures/movieSounds.js'

/** A production. */
export interface ShowRow {
  id: string
  name: string
  company: string
}

/** A reel; its facts are the record of kind `reel`. `seq` numbers its last change. */
export interface ReelRow {
  id: string
  showId: string
  seq: number
}

/** One record of a reel's document. `version` is the number of the change that wrote it last. */
export interface RecordRow {
  reelId: string
  id: string
  kind: string
  version: number
  data: ReelRecord
}

/** One line of a reel's append-only log. */
export interface ChangeRow extends LogEntry {
  reelId: string
  changeId: string
  at: Date
  change: Change
}

/** A named version of a reel: its log up to `seq`. */
export interface MilestoneRow {
  id: string
  reelId: string
  seq: number
  name: string
  author: string
  at: Date
}

/** What one person has watched of a reel for one category. */
export interface WatchedRow {
  reelId: string
  person: string
  category: string
  spans: Span[]
}

/** A folder of recordings. `licence` and `source` stand for sounds whose files say nothing of theirs. */
export interface ShelfRow {
  id: string
  name: string
  root: string
  problems: { path: string; reason: string }[]
  jobId: string | null
  owner: string
  shared: boolean
  licence: string
  source: string
  /** Its folder was not there when it was looked for. */
  away: boolean
  /** What the last run found. */
  counts: Record<string, number> | null
  sounds: number
  watched: boolean
}

/** A recording of a shelf; lengths in samples at 48 kHz. The search vector is a column that TypeORM never sees. `…From` says who said it: file, shelf or person. */
export interface SoundRow {
  id: string
  shelfId: string
  path: string
  fingerprint: string
  /** Hash of the beginning and the size: tells a moved file. */
  content: string
  size: number
  name: string
  description: string
  keywords: string
  category: string
  licence: string
  source: string
  categoryFrom: string
  licenceFrom: string
  sourceFrom: string
  tags: string
  note: string
  rating: number
  added: Date
  /** When its file was last found to hold something else; null while it never was. */
  altered: Date | null
  standing: number
  channels: number
  sampleRate: number
  bits: number | null
  codec: string
  length: number
  sync: number
  peak: number
  /** Which version of the ears has heard it; 0 none. */
  measured: number
  loudness: number
  truePeak: number
  weight: number
  brightness: number
  bite: number
  noisiness: number
  pitch: number
  events: number
  missing: boolean
}

/** A sound track of a movie. */
export interface GuideTrackRow extends MovieSound {
  /** Samples; 0 until it is decoded, or where it can't be. */
  length: number
  silent: boolean
  /** Why there is no sound; empty where there is. */
  problem: string
}

/** A movie and what was made from it. */
export interface PictureRow {
  id: string
  name: string
  file: string
  rate: string
  frames: number
  width: number
  height: number
  codec: string
  /** Its frames are not even at its rate: they are put on it by their times. */
  variable: boolean
  /** When its first frame is shown, in seconds as the file counts; null where that was not asked when it came in. */
  firstTime: number | null
  /** What is said of a movie that can be shown, but not quite as it is. */
  remark: string
  /** Timecode of its first frame, where the file has one. */
  start: string | null
  tracks: GuideTrackRow[]
  /** The tracks that are heard as the guide, and the one that is drawn and listened to for onsets. */
  heard: number[]
  drawn: number
  state: 'waiting' | 'ready' | 'failed'
  message: string
  jobId: string | null
}

/** Long work. */
export interface JobRow {
  id: string
  kind: string
  title: string
  payload: Record<string, unknown>
  state: 'waiting' | 'running' | 'paused' | 'done' | 'failed' | 'cancelled'
  progress: number
  message: string
  result: Record<string, unknown> | null
  beatAt: Date | null
  createdAt: Date
  attempts: number
}

/** A turnover as it left; its files lie in a folder that has its id. */
export interface TurnoverRow {
  id: string
  reelId: string
  number: number
  seq: number
  name: string
  author: string
  at: Date
  recipe: Recipe
  findings: KeptFinding[]
  measured: Measured | null
  remarks: string[]
  files: KeptFile[]
  /** When its files were thrown away; null while they are there. */
  cleared: Date | null
}

/** A recipe of a show. */
export interface RecipeRow {
  id: string
  showId: string
  recipe: Recipe
}

const id = { type: 'varchar', length: 64, primary: true } as const
const text = { type: 'text', default: '' } as const
const int = { type: 'int', default: 0 } as const

/** Table of shows. */
export const ShowEntity = new EntitySchema<ShowRow>({
  name: 'show',
  columns: { id, name: text, company: text },
})

/** Table of reels. */
export const ReelEntity = new EntitySchema<ReelRow>({
  name: 'reel',
  columns: { id, showId: { type: 'varchar', length: 64, name: 'show_id' }, seq: int },
})

/** Table of document records. */
export const RecordEntity = new EntitySchema<RecordRow>({
  name: 'record',
  columns: {
    reelId: { ...id, name: 'reel_id' },
    id,
    kind: { type: 'varchar', length: 16 },
    version: { type: 'int' },
    data: { type: 'jsonb' },
  },
})

/** Append-only log of changes. */
export const ChangeEntity = new EntitySchema<ChangeRow>({
  name: 'change',
  columns: {
    reelId: { ...id, name: 'reel_id' },
    seq: { type: 'int', primary: true },
    changeId: { type: 'uuid', name: 'change_id', unique: true },
    author: text,
    at: { type: 'timestamptz' },
    role: { type: 'varchar', length: 8 },
    target: { type: 'int', nullable: true },
    label: text,
    change: { type: 'jsonb' },
  },
})

/** Table of milestones. */
export const MilestoneEntity = new EntitySchema<MilestoneRow>({
  name: 'milestone',
  columns: {
    id: { type: 'uuid', primary: true },
    reelId: { type: 'varchar', length: 64, name: 'reel_id' },
    seq: { type: 'int' },
    name: text,
    author: text,
    at: { type: 'timestamptz' },
  },
})

/** Table of watched stretches. */
export const WatchedEntity = new EntitySchema<WatchedRow>({
  name: 'watched',
  columns: {
    reelId: { ...id, name: 'reel_id' },
    person: { type: 'text', primary: true },
    category: { type: 'varchar', length: 8, primary: true },
    spans: { type: 'jsonb' },
  },
})

/** Table of shelves. */
export const ShelfEntity = new EntitySchema<ShelfRow>({
  name: 'shelf',
  columns: {
    id,
    name: text,
    root: { type: 'text', unique: true },
    problems: { type: 'jsonb', default: [] },
    jobId: { type: 'varchar', length: 64, name: 'job_id', nullable: true },
    owner: text,
    shared: { type: 'boolean', default: true },
    licence: text,
    source: text,
    away: { type: 'boolean', default: false },
    counts: { type: 'jsonb', nullable: true },
    sounds: int,
    watched: { type: 'boolean', default: false },
  },
})

/** Table of recordings. Its rows are written by writeSounds only, which keeps their search vectors. */
export const SoundEntity = new EntitySchema<SoundRow>({
  name: 'sound',
  columns: {
    id,
    shelfId: { type: 'varchar', length: 64, name: 'shelf_id' },
    path: text,
    fingerprint: text,
    content: text,
    size: { type: 'float8' },
    name: text,
    description: text,
    keywords: text,
    category: text,
    licence: text,
    source: text,
    categoryFrom: { type: 'varchar', length: 8, name: 'category_from' },
    licenceFrom: { type: 'varchar', length: 8, name: 'licence_from' },
    sourceFrom: { type: 'varchar', length: 8, name: 'source_from' },
    tags: text,
    note: text,
    rating: int,
    added: { type: 'timestamptz' },
    altered: { type: 'timestamptz', nullable: true },
    standing: int,
    channels: int,
    sampleRate: { ...int, name: 'sample_rate' },
    bits: { type: 'int', nullable: true },
    codec: text,
    length: { type: 'float8' },
    sync: { type: 'float8' },
    peak: { type: 'float8' },
    measured: int,
    loudness: { type: 'float4' },
    truePeak: { type: 'float4', name: 'true_peak' },
    weight: { type: 'float4' },
    brightness: { type: 'float4' },
    bite: { type: 'float4' },
    noisiness: { type: 'float4' },
    pitch: { type: 'float4' },
    events: int,
    missing: { type: 'boolean', default: false },
  },
})

/** Table of pictures. */
export const PictureEntity = new EntitySchema<PictureRow>({
  name: 'picture',
  columns: {
    id,
    name: text,
    file: text,
    rate: text,
    frames: int,
    width: int,
    height: int,
    codec: text,
    variable: { type: 'boolean', default: false },
    firstTime: { type: 'float8', name: 'first_time', nullable: true },
    remark: text,
    start: { type: 'text', nullable: true },
    tracks: { type: 'jsonb', default: '[]' },
    heard: { type: 'jsonb', default: '[]' },
    drawn: { type: 'int', default: 0 },
    state: { type: 'varchar', length: 8 },
    message: text,
    jobId: { type: 'varchar', length: 64, name: 'job_id', nullable: true },
  },
})

/** Table of jobs. */
export const JobEntity = new EntitySchema<JobRow>({
  name: 'job',
  columns: {
    id,
    kind: text,
    title: text,
    payload: { type: 'jsonb' },
    state: { type: 'varchar', length: 12 },
    progress: { type: 'float8', default: 0 },
    message: text,
    result: { type: 'jsonb', nullable: true },
    beatAt: { type: 'timestamptz', name: 'beat_at', nullable: true },
    createdAt: { type: 'timestamptz', name: 'created_at' },
    attempts: int,
  },
})

/** Table of turnovers. */
export const TurnoverEntity = new EntitySchema<TurnoverRow>({
  name: 'turnover',
  columns: {
    id,
    reelId: { type: 'varchar', length: 64, name: 'reel_id' },
    number: { type: 'int' },
    seq: { type: 'int' },
    name: text,
    author: text,
    at: { type: 'timestamptz' },
    recipe: { type: 'jsonb' },
    findings: { type: 'jsonb' },
    measured: { type: 'jsonb', nullable: true },
    remarks: { type: 'jsonb' },
    files: { type: 'jsonb' },
    cleared: { type: 'timestamptz', nullable: true },
  },
})

/** Table of recipes. */
export const RecipeEntity = new EntitySchema<RecipeRow>({
  name: 'recipe',
  columns: {
    id,
    showId: { type: 'varchar', length: 64, name: 'show_id' },
    recipe: { type: 'jsonb' },
  },
})

/** All tables. */
export const ENTITIES = [
  ShowEntity,
  ReelEntity,
  RecordEntity,
  ChangeEntity,
  MilestoneEntity,
  WatchedEntity,
  ShelfEntity,
  SoundEntity,
  PictureEntity,
  JobEntity,
  TurnoverEntity,
  RecipeEntity,
]
