import { guideMedia } from '@yodel/core'
import type { PictureRow } from '../db/rows.js'
import type { MediaSource } from '../media/MediaStore.js'

/** Where a sound track of a picture is decoded from: by the times in its file, from the first frame that is shown. Null when it has no such track. */
export function guideSource(
  row: PictureRow,
  number: number,
): (MediaSource & Required<Pick<MediaSource, 'track'>>) | null {
  const { id, file, name, firstTime, tracks } = row
  const track = tracks[number]
  if (!track) return null
  return {
    ...{ key: guideMedia(id, number), file, name: `the guide of ${name}`, channels: track.channels },
    track: {
      stream: track.stream,
      picked: track.channel === null ? [] : [track.channel],
      isWide: track.isWide,
    },
    ...(firstTime === null ? {} : { from: firstTime }),
  }
}
