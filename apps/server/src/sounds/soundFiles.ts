import path from 'node:path'
import type { FoundSoundFile } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { timeReferenceOf } from '../media/timeReference.js'
import { soundPlaces, soundsByIds } from './soundRows.js'

/** Recordings with what only their files say, by their ids in that order; those that are on no shelf are left out. */
export async function soundFiles(db: DataSource, ids: readonly string[]): Promise<FoundSoundFile[]> {
  const roots = new Map((await soundPlaces(db, ids)).map(({ id, root }) => [id, root]))
  const sounds = await soundsByIds(db, ids)
  return Promise.all(
    sounds.map(async ({ id, name, shelf, path: inside, length, sync, channels, sampleRate }) => {
      const timeReference = await timeReferenceOf(path.join(roots.get(id) ?? '', inside), sampleRate)
      return { id, name, shelf, path: inside, length, sync, channels, timeReference }
    }),
  )
}
