import path from 'node:path'
import {
  channelChoiceSchema,
  channelsOf,
  channelWords,
  hasChannels,
  partsOfGuide,
  partsOfMedia,
  SPEEDS,
  type MediaParts,
} from '@yodel/core'
import type { DataSource } from 'typeorm'
import { PictureEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import { guideSource } from '../pictures/guideSource.js'
import { soundPlaces, type SoundPlace } from '../sounds/soundRows.js'
import type { MediaSource } from './MediaStore.js'

/**
 * Where a sound is decoded from.
 *
 * @param part - Which of its channels, and the speed at which it keeps its pitch; all, and as it is, when left out.
 * @throws AppError `NOT_FOUND` when it has no such channels
 */
export function sourceOf(
  place: SoundPlace,
  { channels, stretch }: Pick<MediaParts, 'channels' | 'stretch'> = { channels: '', stretch: 1 },
): MediaSource {
  if (!hasChannels(place.channels, channels))
    throw new AppError(
      'NOT_FOUND',
      `${place.name} has ${place.channels} ${place.channels === 1 ? 'channel' : 'channels'}; ${channelWords(channels)} can’t be heard of it. Choose others on its sound card.`,
    )
  const picked = channelsOf(channels)
  const which = channels === '' ? '' : `-c${picked.join('-')}`
  return {
    key: `${place.id}-${place.fingerprint}${which}${stretch === 1 ? '' : `-${stretch}`}`,
    file: path.join(place.root, place.path),
    name: place.name,
    channels: place.channels === 1 || picked.length === 1 ? 1 : 2,
    stretch,
    ...(picked.length === 0 ? {} : { track: { stream: 0, picked, isWide: false } }),
  }
}

/**
 * Finds what a media id means: a sound, or some of its channels (`id@3+4`), as it is or stretched without a change of pitch (`…~speed`), or
 * a sound track of a picture.
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
    const parts = partsOfMedia(mediaId)
    const { channels, stretch } = parts
    const isSpeed = stretch >= SPEEDS.slowest && stretch <= SPEEDS.fastest
    const [place] = await soundPlaces(db, [parts.soundId])
    if (place && isSpeed && channelChoiceSchema.safeParse(channels).success) return sourceOf(place, parts)
  }
  throw new AppError('NOT_FOUND', `No recording has the id ${mediaId}; its shelf may have been removed.`)
}
