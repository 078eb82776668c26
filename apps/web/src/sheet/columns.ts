import type { Track } from '@yodel/core'
import { TRACK_WIDTH } from './geometry.js'

/** Width of a track that was given room: its names on one line, its wave to be read. */
export const WIDE_WIDTH = 190

/** Width of a folder that is folded together. */
export const FOLDED_WIDTH = 46

/** A column of the Sheet: a track, or a folder of them that is folded together. */
export interface Column {
  readonly key: string
  /** Pixels from the left of the tracks. */
  readonly left: number
  readonly width: number
  /** One, or those of the folder. */
  readonly tracks: readonly Track[]
  readonly folded: boolean
  /** The folder that begins here; empty where none does. */
  readonly folder: string
}

/**
 * Lays out tracks side by side. Neighbours of one folder that is folded share a narrow column; the others share the room, down to their least width.
 *
 * @param folded - Names of the folders that are folded together.
 * @param room - Pixels that can be seen.
 * @param least - Least width of a track.
 * @param wideId - Track that has room, {@link WIDE_WIDTH} or what all have if that is more; null for none.
 */
export function layoutColumns(
  tracks: readonly Track[],
  folded: ReadonlySet<string>,
  room: number,
  least: number = TRACK_WIDTH,
  wideId: string | null = null,
): readonly Column[] {
  const runs: Track[][] = []
  for (const track of tracks) {
    const last = runs.at(-1)
    if (last && track.folder !== '' && track.folder === last[0]?.folder) last.push(track)
    else runs.push([track])
  }
  const parts = runs.flatMap((run) => {
    const folder = run[0]?.folder ?? ''
    if (folder !== '' && folded.has(folder)) return [{ tracks: run, folded: true, folder }]
    return run.map((track, index) => ({ tracks: [track], folded: false, folder: index === 0 ? folder : '' }))
  })
  const isWide = ({ tracks: [track], folded: isFolded }: (typeof parts)[number]): boolean =>
    !isFolded && track?.id === wideId
  const open = parts.filter((part) => !part.folded).length
  const shared = room - (parts.length - open) * FOLDED_WIDTH
  const even = Math.floor(shared / Math.max(1, open))
  const wide = Math.max(WIDE_WIDTH, even)
  const others = parts.some(isWide) ? Math.floor((shared - wide) / Math.max(1, open - 1)) : even
  let left = 0
  return parts.map((part): Column => {
    const width = part.folded ? FOLDED_WIDTH : isWide(part) ? wide : Math.max(least, others)
    const column = { ...part, key: part.tracks[0]?.id ?? '', left, width }
    left += width
    return column
  })
}

/** Pixels that all columns take. */
export function widthOfColumns(columns: readonly Column[]): number {
  const last = columns.at(-1)
  return last ? last.left + last.width : 0
}

/** The column under a place, in pixels from the left of the tracks; undefined beside them. */
export const columnAt = (columns: readonly Column[], x: number): Column | undefined =>
  columns.find((column) => x >= column.left && x < column.left + column.width)
