import type { Change, LogEntry, ReelRecord, Span } from '@yodel/core'
import { EntitySchema } from 'typeorm'

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

/** A folder of recordings. */
export interface ShelfRow {
  id: string
  name: string
  root: string
  problems: { path: string; reason: string }[]
  jobId: string | null
}

/** A recording of a shelf; lengths in samples at 48 kHz. The search vector is a generated column that TypeORM never sees. */
export interface SoundRow {
  id: string
  shelfId: string
  path: string
  fingerprint: string
  name: string
  words: string
  description: string
  keywords: string
  category: string
  licence: string
  source: string
  channels: number
  sampleRate: number
  bits: number | null
  codec: string
  length: number
  sync: number
  peak: number
  missing: boolean
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
  variable: boolean
  hasSound: boolean
  guide: number
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
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'
  progress: number
  message: string
  result: Record<string, unknown> | null
  beatAt: Date | null
  createdAt: Date
  attempts: number
}

const id = { type: 'varchar', length: 64, primary: true } as const
const text = { type: 'text', default: '' } as const
const int = { type: 'int', default: 0 } as const

/** Table of shows. */
export const ShowEntity = new EntitySchema<ShowRow>({ name: 'show', columns: { id, name: text, company: text } })

/** Table of reels. */
export const ReelEntity = new EntitySchema<ReelRow>({ name: 'reel', columns: { id, showId: { type: 'varchar', length: 64, name: 'show_id' }, seq: int } })

/** Table of document records. */
export const RecordEntity = new EntitySchema<RecordRow>({
  name: 'record',
  columns: { reelId: { ...id, name: 'reel_id' }, id, kind: { type: 'varchar', length: 16 }, version: { type: 'int' }, data: { type: 'jsonb' } },
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
  columns: { reelId: { ...id, name: 'reel_id' }, person: { type: 'text', primary: true }, category: { type: 'varchar', length: 8, primary: true }, spans: { type: 'jsonb' } },
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
  },
})

/** Table of recordings. */
export const SoundEntity = new EntitySchema<SoundRow>({
  name: 'sound',
  columns: {
    id,
    shelfId: { type: 'varchar', length: 64, name: 'shelf_id' },
    path: text,
    fingerprint: text,
    name: text,
    words: text,
    description: text,
    keywords: text,
    category: text,
    licence: text,
    source: text,
    channels: int,
    sampleRate: { ...int, name: 'sample_rate' },
    bits: { type: 'int', nullable: true },
    codec: text,
    length: { type: 'float8' },
    sync: { type: 'float8' },
    peak: { type: 'float8' },
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
    hasSound: { type: 'boolean', name: 'has_sound', default: false },
    guide: { type: 'float8', default: 0 },
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

/** All tables. */
export const ENTITIES = [ShowEntity, ReelEntity, RecordEntity, ChangeEntity, MilestoneEntity, WatchedEntity, ShelfEntity, SoundEntity, PictureEntity, JobEntity]
