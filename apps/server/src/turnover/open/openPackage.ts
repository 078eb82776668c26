import { randomUUID } from 'node:crypto'
import { mkdir, readFile, rm } from 'node:fs/promises'
import path from 'node:path'
import {
  apply,
  changeTo,
  documentOf,
  EMPTY_DOCUMENT,
  expectOk,
  isEmpty,
  unpackRecords,
  type JobPayload,
  type JobResult,
  type PackageManifest,
  type Reel,
  type ReelDocument,
  type ReelRecord,
} from '@yodel/core'
import { ReelEntity, ShelfEntity, ShowEntity } from '../../db/entities.js'
import { explainDisk } from '../../errors.js'
import type { JobContext } from '../../jobs/JobQueue.js'
import { runApart } from '../../processes/apart.js'
import { commitChange } from '../../reels/commitChange.js'
import { commitOf } from '../../reels/commitOf.js'
import { makeMilestone } from '../../reels/milestones.js'
import { createReelRows } from '../../reels/reelStore.js'
import { indexShelf } from '../../sounds/indexShelf.js'
import { makeShelf } from '../../sounds/shelves.js'
import { editSounds } from '../../sounds/soundRows.js'
import { packedReelSchema, REEL_PATH } from '../make/packReel.js'

type Deps = Parameters<typeof indexShelf>[0]
type Stands = ReturnType<typeof packedReelSchema.parse>['stands']

const LIMITS = { seconds: 3600, what: 'This package' }

/**
 * Opens a package: makes its show (unless there is one of that name), its reel with every milestone it had, and a shelf of
 * its recordings. Everything is made anew, also where the same reel is here already.
 *
 * @throws Error that says what is wrong with it; nothing of it stays then
 */
export async function openPackage(
  deps: Deps,
  { file, name, by }: JobPayload<'open'>,
  context: JobContext,
): Promise<JobResult<'open'>> {
  const folder = path.join(await deps.media.folder('opened'), context.id)
  // Its own id, so that what an attempt left that ended with the server is found and taken away.
  const reelId = context.id
  const reels = deps.db.getRepository(ReelEntity)
  const made: { shelfId?: string } = {}
  try {
    await reels.delete({ id: reelId })
    await rm(folder, { recursive: true, force: true })
    await mkdir(path.join(folder, 'sounds'), { recursive: true })
    context.progress(0, 'Looking through the package')
    const manifest = await runApart<PackageManifest>('turnover/open/unpack', { file, folder }, LIMITS)
    if (!manifest.files.some(({ path: inside }) => inside === REEL_PATH))
      throw new Error('This turnover left without its sounds and reel; ask for one made with them.')
    const { stands } = packedReelSchema.parse(
      JSON.parse(await readFile(path.join(folder, REEL_PATH), 'utf8')),
    )
    const ids = await shelve(deps, manifest, folder, context, (shelfId) => (made.shelfId = shelfId))
    const remarks = await makeReel(deps, { reelId, manifest, stands, ids, by })
    await forget(deps, file)
    return { reelId, show: manifest.show, reel: manifest.reel, remarks }
  } catch (error) {
    await rm(folder, { recursive: true, force: true })
    await reels.delete({ id: reelId })
    if (made.shelfId !== undefined) await deps.db.getRepository(ShelfEntity).delete({ id: made.shelfId })
    if (!context.signal.aborted) await forget(deps, file)
    throw explainDisk(error, name)
  }
}

/** Takes a package away that was sent here; one that lies on a disk is not ours to take away. */
async function forget({ media }: Pick<Deps, 'media'>, file: string): Promise<void> {
  const sent = await media.folder('incoming')
  if (path.dirname(file) === sent) await rm(file, { force: true })
}

/** Makes the recordings of a package a shelf. @returns their ids by what the package calls them */
async function shelve(
  deps: Deps,
  { show, reel, sounds }: PackageManifest,
  folder: string,
  context: JobContext,
  told: (shelfId: string) => void,
): Promise<Map<string, string>> {
  if (sounds.length === 0) return new Map()
  const root = path.join(folder, 'sounds')
  const shelf = await makeShelf(deps.db, root, `${show}, ${reel}`)
  told(shelf.id)
  await indexShelf(deps, shelf.id, context)
  const rows = (await deps.db.query(
    `SELECT id, path, licence_from AS "licenceFrom", source_from AS "sourceFrom" FROM sound WHERE shelf_id = $1`,
    [shelf.id],
  )) as { id: string; path: string; licenceFrom: string; sourceFrom: string }[]
  const byPath = new Map(rows.map((row) => [row.path, row]))
  const ids = new Map<string, string>()
  for (const { id, path: inside, licence, source } of sounds) {
    const row = byPath.get(path.relative('sounds', inside))
    if (!row) throw new Error(`${inside} could not be read as a recording.`)
    ids.set(id, row.id)
    // What the file itself does not say, the package does.
    const edit = {
      ...(row.licenceFrom !== 'file' && licence !== '' ? { licence } : {}),
      ...(row.sourceFrom !== 'file' && source !== '' ? { source } : {}),
    }
    if (Object.keys(edit).length > 0) await editSounds(deps.db, [row.id], edit)
  }
  return ids
}

/** Makes the reel of a package stand by stand, each at its own time, by whoever made it. @returns what it does not have, in sentences */
async function makeReel(
  { db }: Deps,
  args: {
    reelId: string
    manifest: PackageManifest
    stands: Stands
    ids: ReadonlyMap<string, string>
    by: string
  },
): Promise<string[]> {
  const { reelId, manifest, stands, ids, by } = args
  const known = await db
    .getRepository(ShowEntity)
    .findOneBy({ name: manifest.show, company: manifest.company })
  const hasPicture = stands.some(({ records }) => records.some(({ kind }) => kind === 'cut'))
  let doc: ReelDocument = EMPTY_DOCUMENT
  let seq = 0
  for (const { name, author, at, records } of stands) {
    const wanted = documentOf(here(unpackRecords(records, ids), reelId))
    const facts = wanted.reel.get(reelId) as Reel
    if (seq === 0)
      await createReelRows(db, {
        ...{ showId: known?.id ?? randomUUID(), showName: manifest.show, company: manifest.company, facts },
      })
    const change = changeTo(doc, wanted, name === '' ? `Open the package of ${manifest.reel}` : name)
    if (!isEmpty(change)) {
      seq = (await commitChange(db, reelId, author || by, new Date(at), commitOf(change, seq))).seq
      doc = expectOk(apply(doc, change))
    }
    if (name !== '') await makeMilestone(db, reelId, name, author || by, new Date(at))
  }
  return hasPicture ? ['The picture is not in the package; give the reel its movie on the Reel page.'] : []
}

/** The records of a reel as they stand here: under its new id, without a picture that is not here. */
function here(records: readonly ReelRecord[], reelId: string): ReelRecord[] {
  return records.flatMap((record): ReelRecord[] => {
    if (record.kind === 'cut') return []
    return [record.kind === 'reel' ? { ...record, id: reelId, pictureId: null } : record]
  })
}
