import type { Dirent } from 'node:fs'
import { readdir, stat } from 'node:fs/promises'
import path from 'node:path'
import { reasonOf } from '../errors.js'

/** File endings that are taken for recordings. */
const RECORDING_ENDINGS = new Set([
  '.wav',
  '.bwf',
  '.wave',
  '.rf64',
  '.aif',
  '.aiff',
  '.aifc',
  '.flac',
  '.ogg',
  '.oga',
  '.opus',
  '.mp3',
  '.m4a',
  '.aac',
  '.w64',
  '.caf',
  '.au',
  '.snd',
  '.wv',
  '.wma',
  '.mka',
  '.mpc',
  '.ape',
  '.tta',
  '.ac3',
  '.eac3',
  '.dts',
  '.amr',
  '.mp2',
  '.mpa',
  '.voc',
])
const AT_ONCE = 16

/** A recording on a disk. */
export interface FoundFile {
  /** Path below the shelf's root. */
  readonly path: string
  readonly size: number
  readonly mtimeMs: number
}

/** What lies below a folder. */
export interface Listing {
  readonly files: readonly FoundFile[]
  /** All folders that were read, `''` the root itself. */
  readonly folders: readonly string[]
  /** Files that are no recordings, counted by their ending in lower case; `.` for those without one. */
  readonly passedOver: Readonly<Record<string, number>>
  /** Folders and files that could not be read; what was known below such a folder is not gone. */
  readonly problems: readonly { path: string; reason: string }[]
}

/**
 * Lists all recordings below a folder, by path. Links are not followed, so none can lead out of the root or in circles;
 * folders in `without` (shelves of their own) and hidden ones are passed over.
 *
 * @throws Error when the root itself can't be read.
 */
export async function listRecordings(
  root: string,
  without: ReadonlySet<string>,
  signal: AbortSignal,
): Promise<Listing> {
  const files: FoundFile[] = []
  const folders: string[] = []
  const problems: { path: string; reason: string }[] = []
  const passedOver: Record<string, number> = {}
  const waiting = ['']
  while (waiting.length > 0) {
    signal.throwIfAborted()
    const batch = waiting.splice(0, AT_ONCE)
    await Promise.all(
      batch.map(async (folder) => {
        let entries: Dirent[]
        try {
          entries = await readdir(path.join(root, folder), { withFileTypes: true })
        } catch (error) {
          if (folder === '') throw error
          problems.push({ path: folder, reason: `The folder can't be read: ${reasonOf(error)}` })
          return
        }
        folders.push(folder)
        for (const entry of entries) {
          const relative = path.join(folder, entry.name)
          if (entry.name.startsWith('.')) continue
          if (entry.isDirectory() && !without.has(path.join(root, relative))) waiting.push(relative)
          if (!entry.isFile()) continue
          const ending = path.extname(entry.name).toLowerCase()
          if (!RECORDING_ENDINGS.has(ending)) passedOver[ending || '.'] = (passedOver[ending || '.'] ?? 0) + 1
          else {
            const found = await stat(path.join(root, relative)).catch(
              (error: unknown) => void problems.push({ path: relative, reason: reasonOf(error) }),
            )
            if (found) files.push({ path: relative, size: found.size, mtimeMs: found.mtimeMs })
          }
        }
      }),
    )
  }
  return { files: files.sort((a, b) => (a.path < b.path ? -1 : 1)), folders, passedOver, problems }
}
