import { randomUUID } from 'node:crypto'
import { rm } from 'node:fs/promises'
import path from 'node:path'
import { openDatabase } from '../db/dataSource.js'
import { JobEntity, PictureEntity } from '../db/entities.js'
import { explainDisk, reasonOf } from '../errors.js'
import { verifyAll } from '../reels/verify.js'
import {
  describeFile,
  DUMP,
  MANIFEST,
  manifestSchema,
  postgresProgram,
  runProgram,
  type Manifest,
} from './archive.js'

/** Reads what a backup says of itself. @throws Error that says that it is none, or one of another version */
export async function readManifest(file: string): Promise<Manifest> {
  const text = await runProgram('tar', ['-xOf', file, MANIFEST]).catch((error: unknown) => {
    throw new Error(`${file} is not a backup of Yodel, or not a whole one (${reasonOf(error)}).`)
  })
  const read = manifestSchema.safeParse(parsed(text))
  if (read.success) return read.data
  throw new Error(
    `${file} was made by another version of Yodel, or is damaged: ${read.error.issues[0]?.message}`,
  )
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}

/**
 * Unpacks a backup into an empty data folder and an empty database, checks that every byte arrived, has what lay in the old
 * data folder found in the new one, and compares every reel's rows with its log.
 *
 * @throws Error that says what is wrong; what was unpacked is taken away again
 */
export async function restoreBackup(
  manifest: Manifest,
  place: { databaseUrl: string; dataDir: string; file: string },
): Promise<{ reels: number }> {
  const { databaseUrl, dataDir, file } = place
  try {
    await runProgram('tar', ['-xf', file, '-C', dataDir, '--no-same-owner', '--', DUMP])
    if (manifest.media.length > 0) {
      const names = manifest.media.map((each) => each.path).join('\0')
      await runProgram('tar', ['-xf', file, '-C', dataDir, '--no-same-owner', '--null', '-T', '-'], names)
    }
    for (const wanted of [manifest.dump, ...manifest.media]) {
      const there = await describeFile(dataDir, wanted.path)
      if (there.sha256 !== wanted.sha256)
        throw new Error(`${wanted.path} is not what was backed up: the file ${file} is damaged.`)
    }
    const args = ['--no-owner', '--exit-on-error', `--dbname=${databaseUrl}`, path.join(dataDir, DUMP)]
    await runProgram(postgresProgram('pg_restore'), args)
    return await settleIn(manifest, databaseUrl, dataDir)
  } catch (error) {
    for (const { path: name } of manifest.media) await rm(path.join(dataDir, name), { force: true })
    throw explainDisk(error, `what ${file} holds`)
  } finally {
    await rm(path.join(dataDir, DUMP), { force: true })
  }
}

/** Has the restored database know its new folder, and make again what was not backed up. */
async function settleIn(
  manifest: Manifest,
  databaseUrl: string,
  dataDir: string,
): Promise<{ reels: number }> {
  const db = await openDatabase(databaseUrl)
  try {
    const moved = (column: string): string =>
      `${column} = $2 || substr(${column}, length($1) + 1) WHERE starts_with(${column}, $1 || '/')`
    for (const [table, column] of [
      ['picture', 'file'],
      ['shelf', 'root'],
    ] as const)
      await db.query(`UPDATE ${table} SET ${moved(column)}`, [manifest.dataDir, dataDir])
    for (const { id, name } of await db.getRepository(PictureEntity).find()) {
      const jobId = randomUUID()
      const fresh = {
        state: 'waiting',
        createdAt: new Date(),
        message: '',
        progress: 0,
        attempts: 0,
      } as const
      const title = `Preparing ${name}`
      await db
        .getRepository(JobEntity)
        .insert({ ...fresh, id: jobId, kind: 'picture', title, payload: { id } as never })
      await db.getRepository(PictureEntity).update({ id }, { state: 'waiting', message: '', jobId })
    }
    const lines: string[] = []
    const { reels } = await verifyAll(db, (line) => lines.push(line))
    const ends = (await db.query('SELECT id, seq FROM reel ORDER BY id')) as Manifest['reels']
    if (JSON.stringify(ends) !== JSON.stringify(manifest.reels))
      lines.push('its reels are not those of the backup')
    if (lines.length > 0) throw new Error(`What was restored is not in order:\n${lines.join('\n')}`)
    return { reels }
  } finally {
    await db.destroy()
  }
}
