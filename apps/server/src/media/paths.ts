import { realpath, stat } from 'node:fs/promises'
import path from 'node:path'
import { AppError } from '../errors.js'

/**
 * Resolves a path that a person typed, links included, and makes sure that it lies inside an allowed root.
 *
 * @throws AppError `PATH_MISSING`, `PATH_OUTSIDE_ROOTS`
 */
export async function allowedPath(wanted: string, roots: readonly string[]): Promise<string> {
  if (wanted.includes('\0') || !path.isAbsolute(wanted))
    throw new AppError('PATH_MISSING', `"${wanted}" is not a full path; it must begin with /.`)
  const real = await realpath(wanted).catch(() => null)
  if (real === null)
    throw new AppError(
      'PATH_MISSING',
      `There is nothing at ${wanted}. Check the spelling, and that the disk is there.`,
    )
  for (const root of roots) {
    const realRoot = await realpath(root).catch(() => null)
    if (
      realRoot !== null &&
      (real === realRoot || real.startsWith(realRoot.endsWith(path.sep) ? realRoot : realRoot + path.sep))
    )
      return real
  }
  const list = roots.length > 0 ? roots.join(', ') : 'none'
  throw new AppError(
    'PATH_OUTSIDE_ROOTS',
    `${wanted} lies outside the folders Yodel may read (${list}). Add its folder to YODEL_SOUND_ROOTS and start again.`,
  )
}

/** Says whether a path is a folder that can be read. */
export async function isFolder(file: string): Promise<boolean> {
  return (await stat(file).catch(() => null))?.isDirectory() ?? false
}
