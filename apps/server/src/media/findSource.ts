import path from 'node:path'
import { partsOfGuide, partsOfMedia } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { PictureEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import { guideSource } from '../pictures/guideSource.js'
import { soundPlaces, type SoundPlace } from '../sounds/soundRows.js'
import type { MediaSource } from './MediaStore.js'

/** Where a sound is decoded from. @param stretch - Speed at which it keeps its pitch; 1 is as it is. */
export function sourceOf(place: SoundPlace, stretch = 1): MediaSource {
  const key = `${place.id}-${place.fingerprint}${stretch === 1 ? '' : `-${stretch}`}`
  return {
    key,
    file: path.join(place.root, place.path),
    name: place.name,
    channels: place.channels === 1 ? 1 : 2,
    stretch,
  }
}

/**
 * Finds what a media id means: a sound, a sound stretched without a change of pitch (`id~speed`), or a sound track of a picture.
 *
 * @throws AppError `NOT_FOUND`
 */
export async function findSource(db: DataSource, mediaId: string): Promise<MediaSource> {
  const guide = partsOfGuide(mediaId)
  if (guide) {
    const picture = await db.getRepository(PictureEntity).findOneBy({ id: guide.pictureId })
    const source = picture && guideSource(picture, guide.track)
    if (source) return source
  } else {
    const { soundId, stretch } = partsOfMedia(mediaId)
    const [place] = await soundPlaces(db, [soundId])
    if (place && stretch >= 0.25 && stretch <= 4) return sourceOf(place, stretch)
  }
  throw new AppError('NOT_FOUND', `No recording has the id ${mediaId}; its shelf may have been removed.`)
}
