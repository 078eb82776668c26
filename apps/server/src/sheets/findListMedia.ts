import path from 'node:path'
import {
  fileNameOf,
  listMedia,
  matchMedia,
  stemOf,
  type IncomingList,
  type ListMedia,
  type MediaCandidate,
  type ReadList,
} from '@yodel/core'
import type { Piscina } from 'piscina'
import type { DataSource } from 'typeorm'
import { soundFiles } from '../sounds/soundFiles.js'
import type { FileOrder, FileSums } from '../turnover/make/fileWorker.js'

/** Recordings that are looked at for a list, and bytes of them that are summed up, at most. */
const MOST = 5000
const MOST_BYTES = 8e9

interface Row {
  readonly id: string
  readonly name: string
  readonly path: string
  readonly shelf: string
  readonly root: string
  readonly length: number
  readonly size: number
}

/** Finds the recordings of this machine's shelves that a list plays: see `matchMedia`. Files that the list has checksums for are summed up. */
export async function findListMedia(
  deps: { readonly db: DataSource; readonly files: Piscina<FileOrder, FileSums> },
  list: ReadList,
): Promise<Omit<IncomingList, 'list'>> {
  const media = listMedia(list)
  const rows = await candidates(deps.db, media)
  const sums = await sumUp(deps.files, rows, media)
  const known = rows.map((row): MediaCandidate => {
    const { id, name, length } = row
    return { id, name, length, path: path.join(row.shelf, row.path), sha256: sums.get(id) ?? '' }
  })
  const matches = matchMedia(media, known)
  const wanted = new Set(matches.flatMap(({ choices }) => choices))
  return {
    sounds: await soundFiles(deps.db, [...wanted]),
    matches: matches.map((match) => ({ ...match, choices: [...match.choices] })),
  }
}

/** Recordings of the same name as a file of the list, or, where it has checksums, of the same length. */
async function candidates(db: DataSource, media: readonly ListMedia[]): Promise<Row[]> {
  const names = media.map(({ file }) => fileNameOf(file))
  const stems = media.map(({ file }) => stemOf(file)).filter((stem) => stem !== '')
  const lengths = media.flatMap(({ sha256, fileLength }) => (sha256 === '' ? [] : (fileLength ?? [])))
  return (await db.query(
    `SELECT * FROM (
       SELECT s.id, s.name, s.path, s.length, s.size, h.name AS shelf, h.root,
         lower(regexp_replace(s.path, '^.*/', '')) AS file
       FROM sound s JOIN shelf h ON h.id = s.shelf_id WHERE NOT s.missing) AS s
     WHERE file = ANY($1) OR regexp_replace(file, '\\.[a-z0-9]{1,5}$', '') = ANY($2) OR lower(name) = ANY($2) OR length = ANY($3)
     ORDER BY file = ANY($1) DESC, id LIMIT $4`,
    [names, stems, lengths, MOST],
  )) as Row[]
}

/** Checksums of the files that a checksum of the list may speak of, as many as can be had in good time. */
async function sumUp(
  files: Piscina<FileOrder, FileSums>,
  rows: readonly Row[],
  media: readonly ListMedia[],
): Promise<Map<string, string>> {
  const summed = media.filter(({ sha256 }) => sha256 !== '')
  const names = new Set(summed.map(({ file }) => fileNameOf(file)))
  const lengths = new Set(summed.map(({ fileLength }) => fileLength))
  let bytes = 0
  const asked = rows.filter(({ path: inside, length, size }) => {
    if (!names.has(fileNameOf(inside)) && !lengths.has(length)) return false
    bytes += size
    return bytes <= MOST_BYTES
  })
  const sums = await Promise.all(
    asked.map(async ({ id, root, path: inside }) => {
      const sum = await files.run({ do: 'sum', file: path.join(root, inside) }).catch(() => null)
      return [id, sum?.sha256 ?? ''] as const
    }),
  )
  return new Map(sums)
}
