import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, statfs } from 'node:fs/promises'
import path from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { crc32 } from 'node:zlib'
import { PACKAGE_VERSION, packageManifestSchema, type KeptFile, type PackageManifest } from '@yodel/core'
import { openPromise, type Entry, type ZipFile } from 'yauzl'
import { MANIFEST_PATH } from '../make/makeTurnover.js'

/** What is taken out of which package, and where it goes: an empty folder. */
export interface UnpackOrder {
  readonly file: string
  readonly folder: string
}

const MOST = { manifest: 64 * 1024 * 1024, entries: 100_000 } as const
/** Files of these kinds are needed to go on with a reel; the others stay in the package. */
const WANTED: ReadonlySet<KeptFile['kind']> = new Set(['reel', 'sound'])

/**
 * Takes the reel and the recordings out of a package, once every file that the package should hold is known to be there
 * and to be what it was; runs in a process of its own.
 *
 * @throws Error that names each file that is missing, damaged or not what it was, or says why it is no package
 */
export default async function unpack({ file, folder }: UnpackOrder): Promise<PackageManifest> {
  const zip = await openPromise(file, { autoClose: false }).catch((error: Error) => {
    throw new Error(`This is no whole ZIP file (${error.message}). Fetch the package again.`)
  })
  try {
    const entries = await entriesOf(zip)
    const manifest = await readManifest(zip, entries)
    const wrong: string[] = []
    const wanted = manifest.files.filter(({ kind }) => WANTED.has(kind))
    await needRoom(
      folder,
      wanted.reduce((sum, { size }) => sum + size, 0),
    )
    for (const told of manifest.files) {
      const entry = entries.get(told.path)
      const out = WANTED.has(told.kind) ? path.join(folder, told.path) : null
      const problem = entry ? await takeOut(zip, entry, told, out) : 'is missing'
      if (problem) wrong.push(`${told.path} ${problem}`)
    }
    if (wrong.length > 0)
      throw new Error(`Nothing was taken from this package: ${wrong.join('; ')}. Have it made or sent again.`)
    return manifest
  } finally {
    zip.close()
  }
}

/** The entries of a ZIP by their paths. Paths that lead out of it are refused by the reader. */
async function entriesOf(zip: ZipFile): Promise<Map<string, Entry>> {
  if (zip.entryCount > MOST.entries)
    throw new Error(`It holds ${zip.entryCount} files, more than a package can.`)
  const entries = new Map<string, Entry>()
  for await (const entry of zip.eachEntry()) entries.set(entry.fileName, entry)
  return entries
}

async function readManifest(zip: ZipFile, entries: ReadonlyMap<string, Entry>): Promise<PackageManifest> {
  const entry = entries.get(MANIFEST_PATH)
  if (!entry) throw new Error('This ZIP is no package: it has no manifest.json.')
  if (entry.uncompressedSize > MOST.manifest) throw new Error('Its manifest is larger than one can be.')
  const pieces: Buffer[] = []
  for await (const piece of await zip.openReadStreamPromise(entry)) pieces.push(piece as Buffer)
  const bytes = Buffer.concat(pieces)
  if (crc32(bytes) !== entry.crc32) throw new Error('Its manifest is damaged: its checksum differs.')
  const told = parsed(bytes.toString('utf8')) as { format?: unknown; version?: unknown } | null
  if (told?.format !== 'yodel-package')
    throw new Error('This ZIP is no package: its manifest is of something else.')
  if (typeof told.version === 'number' && told.version > PACKAGE_VERSION)
    throw new Error(
      `This package is of version ${told.version}; this Yodel reads up to version ${PACKAGE_VERSION}. Bring Yodel up to date, or have the package made by this version.`,
    )
  const manifest = packageManifestSchema.safeParse(told)
  if (!manifest.success) {
    const [issue] = manifest.error.issues
    throw new Error(
      `Its manifest is damaged at ${issue?.path.join('.') ?? 'its beginning'}: ${issue?.message ?? ''}`,
    )
  }
  return manifest.data
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    throw new Error('Its manifest is damaged: it is no JSON.')
  }
}

async function needRoom(folder: string, bytes: number): Promise<void> {
  const { bavail, bsize } = await statfs(folder)
  if (bytes > bavail * bsize)
    throw new Error(
      `Its recordings need ${Math.ceil(bytes / 1e6)} MB, and ${Math.floor((bavail * bsize) / 1e6)} MB are free. Make room and open it again.`,
    )
}

/** Reads an entry to its end, and writes it where it is wanted. @returns what is wrong with it, or null */
async function takeOut(
  zip: ZipFile,
  entry: Entry,
  told: KeptFile,
  out: string | null,
): Promise<string | null> {
  if (entry.uncompressedSize !== told.size)
    return `has ${entry.uncompressedSize} bytes instead of ${told.size}`
  const hash = createHash('sha256')
  let size = 0
  const look = async function* (source: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
    for await (const piece of source) {
      size += piece.length
      if (size > told.size) throw new Error('is longer than it says')
      hash.update(piece)
      yield piece
    }
  }
  try {
    const source: Readable = await zip.openReadStreamPromise(entry)
    if (out === null) for await (const _ of look(source)) continue
    else {
      await mkdir(path.dirname(out), { recursive: true })
      await pipeline(source, look, createWriteStream(out, { flags: 'wx' }))
    }
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC') throw error
    return `can’t be read (${error instanceof Error ? error.message : String(error)})`
  }
  return hash.digest('hex') === told.sha256 ? null : 'is not what it was: its checksum differs'
}
