import type { PictureRow } from '../db/entities.js'
import type { MediaSource } from '../media/MediaStore.js'

/** Where the guide of a picture is decoded from: by the times in its file, from the first frame that is shown. */
export function guideSource(row: PictureRow): MediaSource {
  const { id, file, name, firstTime } = row
  return {
    ...{ key: `guide-${id}`, file, name: `the guide of ${name}`, channels: 2 },
    ...(firstTime === null ? {} : { from: firstTime }),
  }
}
