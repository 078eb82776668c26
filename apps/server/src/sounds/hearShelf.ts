import { secondsOf } from '@yodel/core'
import path from 'node:path'
import type { Piscina } from 'piscina'
import type { DataSource } from 'typeorm'
import type { ShelfRow } from '../db/rows.js'
import { isDiskFull, reasonOf } from '../errors.js'
import type { JobContext } from '../jobs/JobQueue.js'
import type { MediaStore } from '../media/MediaStore.js'
import type { Settings } from '../settings.js'
import type { HearOrder, Hearing } from './hearWorker.js'
import { fingerprintOf } from './readTags.js'
import { writeLikeness } from './similarSounds.js'
import { writeSounds, writtenSounds, type WrittenSound } from './soundRows.js'

/** What listening works with. */
export interface HearingDeps {
  readonly db: DataSource
  readonly settings: Settings
  readonly media: MediaStore
  readonly ears: Piscina<HearOrder, Hearing>
}

/** Raised when something new is measured: everything is then listened to again. */
export const HEARD_VERSION = 1

const BATCH = 64
const AT_ONCE = 4
/** A file is said to be cut short when it holds less than this part of what its header promises. */
const WHOLE = 0.98

/**
 * Listens to every sound of a shelf that has not been heard yet, in the order of their paths, and writes what was measured.
 *
 * @param part - Maps the part done to the job's progress.
 * @returns What could not be heard, with the reason.
 */
export async function hearShelf(
  deps: HearingDeps,
  shelf: ShelfRow,
  context: JobContext,
  part: (done: number) => number,
): Promise<{ path: string; reason: string }[]> {
  const problems: { path: string; reason: string }[] = []
  const [{ n: all }] = (await deps.db.query(
    'SELECT count(*)::int AS n FROM sound WHERE shelf_id = $1 AND NOT missing AND measured < $2',
    [shelf.id, HEARD_VERSION],
  )) as [{ n: number }]
  const began = Date.now()
  let done = 0
  let samples = 0
  let after = ''
  for (;;) {
    const rows = await writtenSounds(
      deps.db,
      's.shelf_id = $1 AND NOT s.missing AND s.measured < $2 AND s.path > $3 COLLATE "C" ORDER BY s.path COLLATE "C" LIMIT $4',
      [shelf.id, HEARD_VERSION, after, BATCH],
    )
    if (rows.length === 0) return problems
    after = rows.at(-1)?.path ?? ''
    const waiting = [...rows]
    const finished: { row: WrittenSound; likeness: readonly number[] }[] = []
    await Promise.all(
      Array.from({ length: AT_ONCE }, async () => {
        for (let row = waiting.shift(); row; row = waiting.shift()) {
          context.signal.throwIfAborted()
          try {
            const { heard, problem } = await hearSound(
              deps,
              path.join(shelf.root, row.path),
              row,
              context.signal,
            )
            finished.push(heard)
            samples += heard.row.length
            if (problem) problems.push({ path: row.path, reason: problem })
          } catch (error) {
            context.signal.throwIfAborted()
            if (isDiskFull(error)) throw error
            problems.push({ path: row.path, reason: reasonOf(error) })
            // What can't be played must not be found; the next run tries again.
            finished.push({ row: { ...row, missing: true, fingerprint: '' }, likeness: [] })
          }
          done++
          const speed = Math.round(secondsOf(samples) / Math.max(0.001, (Date.now() - began) / 1000))
          context.progress(
            part(done / Math.max(1, all)),
            `Heard ${done.toLocaleString('en')} of ${all.toLocaleString('en')}, ${speed} times as fast as they play`,
          )
        }
      }),
    )
    await writeSounds(
      deps.db,
      finished.map(({ row }) => row),
    )
    await writeLikeness(
      deps.db,
      finished
        .filter(({ likeness }) => likeness.length > 0)
        .map(({ row, likeness }) => ({ id: row.id, likeness })),
    )
  }
}

/**
 * Listens to one sound and keeps its outline and its events; its row is returned to be written.
 *
 * @throws Error with the reason when it can't be decoded, or was changed meanwhile.
 */
async function hearSound(deps: HearingDeps, file: string, row: WrittenSound, signal: AbortSignal) {
  const { heard, peaks, ...now } = await deps.ears.run(
    { file, channels: row.channels, ffmpeg: deps.settings.ffmpeg },
    { signal },
  )
  if (fingerprintOf(now) !== row.fingerprint)
    throw new Error('The file was changed while it was read. Index the shelf again when it is finished.')
  await deps.media.keepPeaks(`${row.id}-${row.fingerprint}`, peaks)
  const { events, likeness, length, ...qualities } = heard
  // A row that was never measured, or whose content changed since, has no events that a hand could have mended.
  await deps.db.query(
    `INSERT INTO sound_events (sound_id, events) VALUES ($1, $2) ON CONFLICT (sound_id) DO UPDATE SET events = excluded.events, by_hand = false
     WHERE NOT sound_events.by_hand OR $3`,
    [row.id, JSON.stringify(events), row.measured === 0],
  )
  const promised = row.length
  const problem =
    promised > 0 && length < promised * WHOLE - 4800
      ? `The file is cut short: its header promises ${seconds(promised)}, it holds ${seconds(length)}. What is there can be used.`
      : null
  return {
    heard: {
      row: { ...row, ...qualities, length, events: events.length, measured: HEARD_VERSION },
      likeness,
    },
    problem,
  }
}

const seconds = (samples: number): string => `${secondsOf(samples).toFixed(1)} s`

/** Listens to one sound at once, ahead of the job, because somebody wants to use it. */
export async function hearNow(deps: HearingDeps, id: string): Promise<void> {
  const [row] = await writtenSounds(deps.db, 's.id = $1 AND NOT s.missing AND s.measured < $2', [
    id,
    HEARD_VERSION,
  ])
  if (!row) return
  const [shelf] = (await deps.db.query('SELECT root FROM shelf WHERE id = $1', [row.shelfId])) as {
    root: string
  }[]
  const { heard } = await hearSound(
    deps,
    path.join(shelf?.root ?? '', row.path),
    row,
    AbortSignal.timeout(30 * 60 * 1000),
  )
  await writeSounds(deps.db, [heard.row])
  await writeLikeness(deps.db, [{ id, likeness: heard.likeness }])
}
