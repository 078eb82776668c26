import type { ReadClip, ReadList } from './readList.js'

/** A file that a list plays, and how many of its sounds do. */
export interface ListMedia {
  readonly key: string
  /** Path or name as the list has it; empty where it says nothing. */
  readonly file: string
  readonly sha256: string
  readonly fileLength: number | null
  readonly uses: number
}

/** A recording that may be it. */
export interface MediaCandidate {
  readonly id: string
  /** Path with the folders of its shelf. */
  readonly path: string
  readonly name: string
  /** Samples at 48 kHz. */
  readonly length: number
  /** SHA-256 of its file; empty where it was not computed. */
  readonly sha256: string
}

/** What is taken for a file of a list, and why. */
export interface MediaMatch {
  readonly media: ListMedia
  /** Null where nothing fits, or several fit equally: then it is asked. */
  readonly id: string | null
  readonly by: 'checksum' | 'path' | 'name' | null
  /** It is called the same, and is not the same: another content, or another length. */
  readonly differs: boolean
  /** All that may be it, the likeliest first. */
  readonly choices: readonly string[]
}

/** What tells the files of a list apart: their checksum, else their path, else the sound's name. */
export const mediaKey = ({ sha256, file, name }: Pick<ReadClip, 'sha256' | 'file' | 'name'>): string =>
  sha256 || file || name

/** The files that a list plays, in its order. */
export function listMedia({ clips }: Pick<ReadList, 'clips'>): ListMedia[] {
  const found = new Map<string, ListMedia>()
  for (const clip of clips) {
    const key = mediaKey(clip)
    const { sha256, fileLength } = clip
    const known = found.get(key) ?? { key, file: clip.file || clip.name, sha256, fileLength, uses: 0 }
    found.set(key, { ...known, uses: known.uses + 1 })
  }
  return [...found.values()]
}

/** Last part of a path, in small letters; with both kinds of slashes, as lists from anywhere have them. */
export const fileNameOf = (path: string): string => (path.split(/[\\/]/).at(-1) ?? '').toLowerCase()
/** A file's name without its ending. */
export const stemOf = (path: string): string => fileNameOf(path).replace(/\.[a-z0-9]{1,5}$/, '')

/**
 * Finds the recording for each file of a list: by its checksum, else by its name, of several that with most of the path
 * in common; without its ending where nothing else fits, as lists often have it.
 */
export function matchMedia(media: readonly ListMedia[], known: readonly MediaCandidate[]): MediaMatch[] {
  const tables: Tables = {
    bySum: tableBy(known, ({ sha256 }) => [sha256]),
    byName: tableBy(known, ({ path }) => [fileNameOf(path)]),
    byStem: tableBy(known, ({ path, name }) => [stemOf(path), name.toLowerCase()]),
  }
  return media.map((one) => matchOne(one, tables))
}

/** Candidates by what they may be found by; nothing is found by nothing. */
type Table = ReadonlyMap<string, readonly MediaCandidate[]>
type Tables = Readonly<Record<'bySum' | 'byName' | 'byStem', Table>>

function tableBy(known: readonly MediaCandidate[], keysOf: (one: MediaCandidate) => string[]): Table {
  const table = new Map<string, MediaCandidate[]>()
  for (const one of known)
    for (const key of new Set(keysOf(one))) {
      const same = table.get(key)
      if (same) same.push(one)
      else if (key !== '') table.set(key, [one])
    }
  return table
}

function matchOne(media: ListMedia, { bySum, byName, byStem }: Tables): MediaMatch {
  const found = (some: readonly MediaCandidate[], by: MediaMatch['by'], differs = false): MediaMatch => {
    const choices = some.map(({ id }) => id)
    return { media, choices, differs, by, id: choices[0] ?? null }
  }
  const same = bySum.get(media.sha256)
  if (same) return found(same, 'checksum')
  const near = byName.get(fileNameOf(media.file)) ?? byStem.get(stemOf(media.file))
  if (!near) return found([], null)
  const differs = (one: MediaCandidate): boolean =>
    (media.sha256 !== '' && one.sha256 !== '') ||
    (media.fileLength !== null && Math.abs(one.length - media.fileLength) > 1)
  const rank = (one: MediaCandidate): number => commonTail(one.path, media.file) + (differs(one) ? 0 : 100)
  const ranked = near.toSorted((a, b) => rank(b) - rank(a))
  const [best, second] = ranked as [MediaCandidate, MediaCandidate | undefined]
  // Where several are equally likely nobody guesses.
  if (second && rank(second) === rank(best)) return { ...found(ranked, null), id: null }
  return found(ranked, commonTail(best.path, media.file) > 1 ? 'path' : 'name', differs(best))
}

/** How many parts two paths have in common, from the last. */
function commonTail(a: string, b: string): number {
  const [left, right] = [a, b].map((path) => path.toLowerCase().split(/[\\/]/).toReversed()) as [
    string[],
    string[],
  ]
  const at = left.findIndex((part, index) => part !== right[index])
  return at < 0 ? left.length : at
}
