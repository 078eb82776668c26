import { partsOfMedia } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { soundPlaces } from '../sounds/soundRows.js'
import type { DecodedMedia } from '../turnover/audio/PcmReader.js'
import { sourceOf } from './findSource.js'
import type { MediaStore } from './MediaStore.js'

/**
 * Decodes recordings, or parts and stretches of them, by their media ids.
 *
 * @param gone - The error for a recording that is on no shelf any more, by its id
 * @param each - Told before each, with its number from 0; what it throws is thrown
 */
export async function decodeMedia(
  { db, media }: { readonly db: DataSource; readonly media: MediaStore },
  mediaIds: readonly string[],
  gone: (soundId: string) => Error,
  each: (index: number, count: number) => void = () => undefined,
): Promise<DecodedMedia> {
  const ids = [...new Set(mediaIds)]
  const sounds = ids.map((id) => partsOfMedia(id).soundId)
  const places = new Map((await soundPlaces(db, sounds)).map((found) => [found.id, found]))
  const decoded: Record<string, DecodedMedia[string]> = {}
  for (const [index, id] of ids.entries()) {
    each(index, ids.length)
    const parts = partsOfMedia(id)
    const found = places.get(parts.soundId)
    if (!found) throw gone(parts.soundId)
    const { file, channels } = await media.pcm(sourceOf(found, parts))
    decoded[id] = { file, channels }
  }
  return decoded
}
