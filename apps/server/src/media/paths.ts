import { realpath, stat } from 'node:fs/promises'
import path from 'node:path'
import { AppError } from '../errors.js'

/**
 * Resolves a path that a person typed, links included, and makes sure that it lies inside an allowed root.
 * Outside of them the answer is the same whether something is there or not.
 *
 * @throws AppError `PATH_MISSING`, `PATH_OUTSIDE_ROOTS`
 */
export async function allowedPath(wanted: string, roots: readonly string[]): Promise<string> {
  if (wanted.includes('\0') || !path.isAbsolute(wanted))
    throw new AppError('PATH_MISSING', `"${wanted}" is not a full path; it must begin with /.`)
  const real = await realpath(wanted).catch(() => null)
  const realRoots = await Promise.all(roots.map((root) => realpath(root).catch(() => null)))
  const place = real ?? (await nearestFolder(path.resolve(wanted)))
  // A root whose disk is away holds nothing, and is no secret.
  const isAllowed = roots.some((root, at) =>
    isWithin(
      ...(realRoots[at] ? ([place, realRoots[at]] as const) : ([path.resolve(wanted), root] as const)),
    ),
  )
  if (!isAllowed) {
    const list = roots.length > 0 ? roots.join(', ') : 'none'
    throw new AppError(
      'PATH_OUTSIDE_ROOTS',
      `${wanted} lies outside the folders Yodel may read (${list}). Let its folder be read where folders are chosen, at the server’s own machine, or name it in YODEL_SOUND_ROOTS.`,
    )
  }
  if (real !== null) return real
  throw new AppError(
    'PATH_MISSING',
    `There is nothing at ${wanted}. Check the spelling, and that the disk is there.`,
  )
}

const isWithin = (place: string, root: string): boolean =>
  place === root || place.startsWith(root.endsWith(path.sep) ? root : root + path.sep)

/** Where something that is not there would lie, links on its way included. */
async function nearestFolder(missing: string): Promise<string> {
  const parent = path.dirname(missing)
  return (await realpath(parent).catch(() => null)) ?? (parent === missing ? parent : nearestFolder(parent))
}

/** Says whether a path is a folder that can be read. */
export async function isFolder(file: string): Promise<boolean> {
  return (await stat(file).catch(() => null))?.isDirectory() ?? false
}
