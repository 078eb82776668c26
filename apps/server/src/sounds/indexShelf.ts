import { createHash } from 'node:crypto'
import type { Dirent } from 'node:fs'
import { readdir, stat } from 'node:fs/promises'
import path from 'node:path'
import type { DataSource } from 'typeorm'
import { ShelfEntity, SoundEntity } from '../db/entities.js'
import { reasonOf } from '../errors.js'
import type { JobContext } from '../jobs/JobQueue.js'
import type { MediaStore } from '../media/MediaStore.js'
import type { Settings } from '../settings.js'
import { fingerprintOf, readRecording, RECORDING_ENDINGS } from './readRecording.js'

/** What one run over a shelf found. */
export interface IndexCounts extends Record<string, unknown> {
  fresh: number
  changed: number
  same: number
  gone: number
  problems: number
}

/**
 * Indexes a shelf: reads what is new or changed, marks what is gone, lists what can't be read with its reason and goes on.
 * Nothing on the shelf is copied or touched. Safe to run again at any time.
 */
export async function indexShelf(deps: { db: DataSource; settings: Settings; media: MediaStore }, shelfId: string, context: JobContext): Promise<IndexCounts> {
  const shelves = deps.db.getRepository(ShelfEntity)
  const sounds = deps.db.getRepository(SoundEntity)
  const shelf = await shelves.findOneByOrFail({ id: shelfId })
  const files = await listRecordings(shelf.root)
  const known = new Map((await sounds.findBy({ shelfId })).map((row) => [row.path, row]))
  const counts: IndexCounts = { fresh: 0, changed: 0, same: 0, gone: 0, problems: 0 }
  const problems: { path: string; reason: string }[] = []
  for (const [index, relative] of files.entries()) {
    context.signal.throwIfAborted()
    context.progress(index / files.length, `${index} of ${files.length}: ${path.basename(relative)}`)
    const file = path.join(shelf.root, relative)
    try {
      const fingerprint = fingerprintOf(await stat(file))
      const before = known.get(relative)
      known.delete(relative)
      if (before && before.fingerprint === fingerprint && !before.missing) {
        counts.same++
        continue
      }
      const { recording, peaks } = await readRecording(deps.settings, file, fingerprint)
      const id = before?.id ?? soundId(shelfId, relative)
      await deps.media.keepPeaks(`${id}-${fingerprint}`, peaks)
      await sounds.upsert({ id, shelfId, path: relative, missing: false, ...recording }, ['id'])
      if (before) counts.changed++
      else counts.fresh++
    } catch (error) {
      context.signal.throwIfAborted()
      problems.push({ path: relative, reason: reasonOf(error) })
    }
  }
  for (const row of known.values()) {
    counts.gone++
    if (!row.missing) await sounds.update({ id: row.id }, { missing: true })
  }
  counts.problems = problems.length
  await shelves.update({ id: shelfId }, { problems })
  return counts
}

/** A sound's id: the same for the same place on the same shelf, so that indexing twice after a crash makes no twins. */
function soundId(shelfId: string, relative: string): string {
  return createHash('sha256').update(`${shelfId}/${relative}`).digest('hex').slice(0, 24)
}

/** All recordings below a folder, by path; links are not followed, so none can lead out of the root or in circles. */
async function listRecordings(root: string): Promise<string[]> {
  const found: string[] = []
  const visit = async (folder: string): Promise<void> => {
    const entries: Dirent[] = await readdir(path.join(root, folder), { withFileTypes: true })
    for (const entry of entries) {
      const relative = path.join(folder, entry.name)
      if (entry.isDirectory() && !entry.name.startsWith('.')) await visit(relative)
      else if (entry.isFile() && RECORDING_ENDINGS.has(path.extname(entry.name).toLowerCase())) found.push(relative)
    }
  }
  await visit('')
  return found.sort()
}
