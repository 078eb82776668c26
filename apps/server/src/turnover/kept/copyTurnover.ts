import { mkdir, rename, rm, stat, statfs, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { nameByRule, reelOf, type JobPayload, type JobResult } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { explainDisk } from '../../errors.js'
import type { JobContext } from '../../jobs/JobQueue.js'
import { loadDocument } from '../../reels/reelStore.js'
import type { FileDeps } from '../make/packSounds.js'
import { turnoverFolder, wholeTurnover } from './turnovers.js'

/** What the package of a turnover is called, by the rule of its reel. */
export async function packageName(
  db: DataSource,
  row: { reelId: string; number: number; at: Date },
): Promise<string> {
  const reel = reelOf(await loadDocument(db, row.reelId))
  return nameByRule(reel, `turnover ${row.number}`, row.at.toISOString().slice(0, 10))
}

/**
 * Copies a turnover into a folder of a disk, as a folder that appears when it is whole and every file in it is what it was.
 *
 * @throws Error that says what is in the way; nothing of it stays then
 */
export async function copyTurnover(
  { db, media, files }: FileDeps,
  { turnoverId, folder }: JobPayload<'deliver'>,
  { signal, progress }: Pick<JobContext, 'signal' | 'progress'>,
): Promise<JobResult<'deliver'>> {
  const row = await wholeTurnover(db, turnoverId)
  const from = await turnoverFolder(media, turnoverId)
  const to = path.join(folder, await packageName(db, row))
  if (await stat(to).catch(() => null))
    throw new Error(`${to} is there already. Take it away, or choose another folder.`)
  const bytes = row.files.reduce((sum, { size }) => sum + size, 0)
  const { bavail, bsize } = await statfs(folder)
  if (bytes > bavail * bsize)
    throw new Error(
      `It needs ${Math.ceil(bytes / 1e6)} MB, and ${Math.floor((bavail * bsize) / 1e6)} MB are free in ${folder}.`,
    )
  const unfinished = `${to}.part`
  try {
    let copied = 0
    for (const file of row.files) {
      signal.throwIfAborted()
      progress(bytes === 0 ? 0 : copied / bytes, `Copying ${path.basename(file.path)}`)
      const out = path.join(unfinished, file.path)
      await mkdir(path.dirname(out), { recursive: true })
      await writeFile(out, '')
      const { sha256 } = await files.run({ do: 'copy', file: path.join(from, file.path), out }, { signal })
      if (sha256 !== file.sha256)
        throw new Error(`${file.path} is not what it was any more; make the turnover again.`)
      copied += file.size
    }
    await rename(unfinished, to)
    return { folder: to }
  } catch (error) {
    await rm(unfinished, { recursive: true, force: true })
    throw explainDisk(error, folder)
  }
}
