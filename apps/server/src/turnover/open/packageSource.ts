import { createReadStream } from 'node:fs'
import { lstat, readFile, realpath, stat } from 'node:fs/promises'
import path from 'node:path'
import type { Readable } from 'node:stream'
import { crc32 } from 'node:zlib'
import { openPromise, type Entry } from 'yauzl'

/** Where the files of a package are read from: a ZIP, or a folder as one has it on a disk. */
export interface PackageSource {
  /** What it is, for sentences. */
  readonly what: 'ZIP' | 'folder'
  /** Bytes of a file by its path in the package; null where there is none. */
  size(inside: string): Promise<number | null>
  /** A file from its beginning. */
  stream(inside: string): Promise<Readable>
  /** A small file whole. @throws Error when it is damaged */
  bytes(inside: string): Promise<Buffer>
  close(): void
}

const MOST_ENTRIES = 100_000

/** Opens a package. @param file - A ZIP file, or a folder @throws Error when it is neither */
export async function openSource(file: string): Promise<PackageSource> {
  return (await stat(file)).isDirectory() ? folderSource(await realpath(file)) : zipSource(file)
}

async function zipSource(file: string): Promise<PackageSource> {
  const zip = await openPromise(file, { autoClose: false }).catch((error: Error) => {
    throw new Error(`This is no whole ZIP file (${error.message}). Fetch the package again.`)
  })
  try {
    if (zip.entryCount > MOST_ENTRIES)
      throw new Error(`It holds ${zip.entryCount} files, more than a package can.`)
    const entries = new Map<string, Entry>()
    // Paths that lead out of it are refused by the reader.
    for await (const entry of zip.eachEntry()) entries.set(entry.fileName, entry)
    const stream = (inside: string): Promise<Readable> =>
      zip.openReadStreamPromise(entries.get(inside) as Entry)
    return {
      what: 'ZIP',
      size: (inside) => Promise.resolve(entries.get(inside)?.uncompressedSize ?? null),
      stream,
      bytes: async (inside) => {
        const pieces: Buffer[] = []
        for await (const piece of await stream(inside)) pieces.push(piece as Buffer)
        const bytes = Buffer.concat(pieces)
        if (crc32(bytes) !== entries.get(inside)?.crc32) throw new Error('its checksum differs')
        return bytes
      },
      close: () => zip.close(),
    }
  } catch (error) {
    zip.close()
    throw error
  }
}

/** @param root - Without links in it. */
function folderSource(root: string): PackageSource {
  const place = (inside: string): string => path.join(root, inside)
  return {
    what: 'folder',
    size: async (inside) => {
      const facts = await lstat(place(inside)).catch(() => null)
      // A link, in the file's own name or in a folder on its way, could lead anywhere.
      const real = facts?.isFile() ? await realpath(place(inside)) : null
      return real !== null && real === place(inside) && real.startsWith(root + path.sep)
        ? (facts?.size ?? null)
        : null
    },
    stream: (inside) => Promise.resolve(createReadStream(place(inside))),
    bytes: (inside) => readFile(place(inside)),
    close: () => undefined,
  }
}
