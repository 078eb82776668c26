import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, statfs } from 'node:fs/promises'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import { PACKAGE_VERSION, packageManifestSchema, type KeptFile, type PackageManifest } from '@yodel/core'
import { MANIFEST_PATH } from '../make/makeTurnover.js'
import { openSource, type PackageSource } from './packageSource.js'

/** What is taken out of which package, and where it goes: an empty folder. */
export interface UnpackOrder {
  /** A ZIP, or a folder. */
  readonly file: string
  readonly folder: string
}

const MOST_MANIFEST = 64 * 1024 * 1024
/** Files of these kinds are needed to go on with a reel; the others stay in the package. */
const WANTED: ReadonlySet<KeptFile['kind']> = new Set(['reel', 'sound'])

/**
 * Takes the reel and the recordings out of a package, once every file that the package should hold is known to be there
 * and to be what it was; runs in a process of its own.
 *
 * @throws Error that names each file that is missing, damaged or not what it was, or says why it is no package
 */
export default async function unpack({ file, folder }: UnpackOrder): Promise<PackageManifest> {
  const source = await openSource(file)
  try {
    const manifest = await readManifest(source)
    const wrong: string[] = []
    const wanted = manifest.files.filter(({ kind }) => WANTED.has(kind))
    await needRoom(
      folder,
      wanted.reduce((sum, { size }) => sum + size, 0),
    )
    for (const told of manifest.files) {
      const out = WANTED.has(told.kind) ? path.join(folder, told.path) : null
      const problem = await takeOut(source, told, out)
      if (problem) wrong.push(`${told.path} ${problem}`)
    }
    if (wrong.length > 0)
      throw new Error(`Nothing was taken from this package: ${wrong.join('; ')}. Have it made or sent again.`)
    return manifest
  } finally {
    source.close()
  }
}

async function readManifest(source: PackageSource): Promise<PackageManifest> {
  const size = await source.size(MANIFEST_PATH)
  if (size === null) throw new Error(`This ${source.what} is no package: it has no manifest.json.`)
  if (size > MOST_MANIFEST) throw new Error('Its manifest is larger than one can be.')
  const bytes = await source.bytes(MANIFEST_PATH).catch((error: Error) => {
    throw new Error(`Its manifest is damaged: ${error.message}.`)
  })
  const told = parsed(bytes.toString('utf8')) as { format?: unknown; version?: unknown } | null
  if (told?.format !== 'yodel-package')
    throw new Error(`This ${source.what} is no package: its manifest is of something else.`)
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
async function takeOut(source: PackageSource, told: KeptFile, out: string | null): Promise<string | null> {
  const there = await source.size(told.path)
  if (there === null) return 'is missing'
  if (there !== told.size) return `has ${there} bytes instead of ${told.size}`
  const hash = createHash('sha256')
  let size = 0
  const look = async function* (pieces: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
    for await (const piece of pieces) {
      size += piece.length
      if (size > told.size) throw new Error('is longer than it says')
      hash.update(piece)
      yield piece
    }
  }
  try {
    const stream = await source.stream(told.path)
    if (out === null) for await (const _ of look(stream)) continue
    else {
      await mkdir(path.dirname(out), { recursive: true })
      await pipeline(stream, look, createWriteStream(out, { flags: 'wx' }))
    }
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC') throw error
    return `can’t be read (${error instanceof Error ? error.message : String(error)})`
  }
  return hash.digest('hex') === told.sha256 ? null : 'is not what it was: its checksum differs'
}
