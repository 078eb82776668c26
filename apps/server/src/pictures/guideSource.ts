import type { PictureRow } from '../db/entities.js'
import type { MediaSource } from '../media/MediaStore.js'

/** Where the guide of a picture is decoded from. */
export function guideSource(row: PictureRow): MediaSource {
  return { key: `guide-${row.id}`, file: row.file, name: `the guide of ${row.name}`, channels: 2 }
}
