import path from 'node:path'
import type { DataSource } from 'typeorm'
import { PictureEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import { guideSource } from '../pictures/pictures.js'
import { soundPlaces, type SoundPlace } from '../sounds/soundRows.js'
import type { MediaSource } from './MediaStore.js'

/** Where a sound is decoded from. */
export function sourceOf(place: SoundPlace): MediaSource {
  return { key: `${place.id}-${place.fingerprint}`, file: path.join(place.root, place.path), name: place.name, channels: place.channels === 1 ? 1 : 2 }
}

/**
 * Finds what a media id means: a sound, or `guide-` and the id of a picture.
 *
 * @throws AppError `NOT_FOUND`
 */
export async function findSource(db: DataSource, mediaId: string): Promise<MediaSource> {
  if (mediaId.startsWith('guide-')) {
    const picture = await db.getRepository(PictureEntity).findOneBy({ id: mediaId.slice(6) })
    if (picture?.hasSound) return guideSource(picture)
  } else {
    const [place] = await soundPlaces(db, [mediaId])
    if (place) return sourceOf(place)
  }
  throw new AppError('NOT_FOUND', `No recording has the id ${mediaId}; its shelf may have been removed.`)
}
