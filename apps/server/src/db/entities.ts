import { EntitySchema } from 'typeorm'
import type {
  ShowRow,
  ReelRow,
  RecordRow,
  ChangeRow,
  MilestoneRow,
  WatchedRow,
  ShelfRow,
  SoundRow,
  PictureRow,
  JobRow,
  TurnoverRow,
  RecipeRow,
} from './rows.js'

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
  columns: {
    id,
    showId: { type: 'varchar', length: 64, name: 'show_id' },
    seq: int,
    thrown: { type: 'timestamptz', nullable: true },
    thrownBy: { ...text, name: 'thrown_by', nullable: true },
  },
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
