import type { Change, KeptFile, KeptFinding, LogEntry, Measured, Recipe, ReelRecord, Span } from '@yodel/core'
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
  /** When it was thrown away, and by whom; null while it is there. */
  thrown: Date | null
  thrownBy: string | null
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
