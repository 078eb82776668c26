import { mkdtemp, readdir, rename, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import type { DataSource } from 'typeorm'
import { explainDisk } from '../errors.js'
import {
  describeFile,
  DUMP,
  MANIFEST,
  postgresProgram,
  runProgram,
  type BackupFile,
  type Manifest,
} from './archive.js'

/**
 * Writes everything that can't be made again into one file, while people go on working: the database as it stands at one
 * moment, the movies that were uploaded, the turnovers, and the recordings that lie in the data folder. Recordings and movies elsewhere
 * stay where they are; proxies, outlines and decoded sound are made again.
 *
 * @param file - It must not be there yet; it appears when it is whole.
 * @throws Error that says what went wrong; nothing is left then
 */
export async function makeBackup(
  db: DataSource,
  place: { databaseUrl: string; dataDir: string; file: string; now: Date },
): Promise<Manifest> {
  const { databaseUrl, dataDir, file, now } = place
  const work = await mkdtemp(path.join(path.dirname(file), '.yodel-backup-'))
  const unfinished = path.join(work, 'backup.tar')
  try {
    const { names, reels } = await dumpDatabase(db, databaseUrl, dataDir, path.join(work, DUMP))
    const media: BackupFile[] = []
    for (const name of names) media.push(await describeFile(dataDir, name))
    const manifest: Manifest = {
      ...({ format: 'yodel-backup', version: 1, made: now.toISOString(), dataDir } as const),
      ...{ dump: await describeFile(work, DUMP), media, reels },
    }
    await writeFile(path.join(work, MANIFEST), JSON.stringify(manifest))
    // In pax form, which keeps parts of seconds: by the time of change a recording is known again.
    const heads = [
      '--format=pax',
      '-cf',
      unfinished,
      '-C',
      work,
      MANIFEST,
      DUMP,
      '-C',
      dataDir,
      '--null',
      '-T',
      '-',
    ]
    await runProgram('tar', heads, names.join('\0'))
    await rename(unfinished, file)
    return manifest
  } catch (error) {
    throw explainDisk(error, file)
  } finally {
    await rm(work, { recursive: true, force: true })
  }
}

/** Dumps the database at one moment, and says what belonged to it then. */
async function dumpDatabase(
  db: DataSource,
  databaseUrl: string,
  dataDir: string,
  to: string,
): Promise<{ names: string[]; reels: Manifest['reels'] }> {
  return db.transaction('REPEATABLE READ', async (tx) => {
    const [{ snapshot = '' } = {}] = (await tx.query('SELECT pg_export_snapshot() AS snapshot')) as {
      snapshot: string
    }[]
    const reels = (await tx.query('SELECT id, seq FROM reel ORDER BY id')) as Manifest['reels']
    const pictures = (await tx.query('SELECT file FROM picture')) as { file: string }[]
    const shelves = (await tx.query('SELECT root FROM shelf')) as { root: string }[]
    const turnovers = (await tx.query('SELECT id FROM turnover')) as { id: string }[]
    const args = ['--format=custom', `--snapshot=${snapshot}`, `--file=${to}`, `--dbname=${databaseUrl}`]
    await runProgram(postgresProgram('pg_dump'), args)
    const inside = (file: string): boolean => file.startsWith(dataDir + path.sep)
    const names = new Set(pictures.map(({ file }) => file).filter(inside))
    for (const { root } of shelves.filter((shelf) => inside(shelf.root)))
      for (const file of await filesBelow(root)) names.add(file)
    for (const { id } of turnovers)
      for (const file of await filesBelow(path.join(dataDir, 'turnovers', id))) names.add(file)
    return { names: [...names].map((file) => path.relative(dataDir, file)).sort(), reels }
  })
}

async function filesBelow(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { withFileTypes: true, recursive: true }).catch(() => [])
  return entries.filter((entry) => entry.isFile()).map((entry) => path.join(entry.parentPath, entry.name))
}
