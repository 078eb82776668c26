import type { Track } from '@yodel/core'
import { TRACK_WIDTH } from './geometry.js'

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
 */
export function layoutColumns(
  tracks: readonly Track[],
  folded: ReadonlySet<string>,
  room: number,
  least: number = TRACK_WIDTH,
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
  const narrow = parts.filter((part) => part.folded).length
  const wide = Math.max(
    least,
    Math.floor((room - narrow * FOLDED_WIDTH) / Math.max(1, parts.length - narrow)),
  )
  let left = 0
  return parts.map((part): Column => {
    const column = { ...part, key: part.tracks[0]?.id ?? '', left, width: part.folded ? FOLDED_WIDTH : wide }
    left += column.width
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
