import { writeFile } from 'node:fs/promises'
import path from 'node:path'
import {
  fileName,
  samplesIn,
  shortTitle,
  soundParts,
  uniqueNames,
  type KeptFile,
  type PackedSound,
  type Recipe,
  type ReelDocument,
  type SoundPart,
} from '@yodel/core'
import type { Piscina } from 'piscina'
import type { DataSource } from 'typeorm'
import type { JobContext } from '../../jobs/JobQueue.js'
import { sourceOf } from '../../media/findSource.js'
import type { MediaStore } from '../../media/MediaStore.js'
import { soundsByIds, soundPlaces, type SoundPlace } from '../../sounds/soundRows.js'
import { goneFromShelves } from '../goneFromShelves.js'
import type { FileOrder, FileSums } from './fileWorker.js'

/** What files are copied with. */
export interface FileDeps {
  readonly db: DataSource
  readonly media: MediaStore
  /** Threads that copy, cut and sum up. */
  readonly files: Piscina<FileOrder, FileSums>
}

/** The recordings of a package. */
export interface PackedSounds {
  readonly parts: readonly SoundPart[]
  readonly sounds: readonly PackedSound[]
  readonly files: readonly KeptFile[]
  /** What could not be done as asked, in sentences. */
  readonly remarks: readonly string[]
}

/** Recordings copied at once. */
export const AT_ONCE = 2

/**
 * Puts the recordings in use into the folder `sounds` of a package: as they are, or only what is heard of them with handles.
 *
 * @throws Error that names a recording that is gone
 */
export async function packSounds(
  deps: FileDeps,
  doc: ReelDocument,
  recipe: Pick<Recipe, 'sounds' | 'handles'>,
  folder: string,
  { signal, progress }: Pick<JobContext, 'signal' | 'progress'>,
): Promise<PackedSounds> {
  const handles = recipe.sounds === 'cut' ? samplesIn(recipe.handles) : null
  const parts = soundParts(doc, handles)
  const ids = [...new Set(parts.map(({ soundId }) => soundId))]
  const known = new Map((await soundsByIds(deps.db, ids)).map((sound) => [sound.id, sound]))
  const places = new Map((await soundPlaces(deps.db, ids)).map((place) => [place.id, place]))
  const names = uniqueNames(parts.map((part) => nameOf(part, places.get(part.soundId))))
  const files: KeptFile[] = []
  const sounds: PackedSound[] = []
  for (let first = 0; first < parts.length; first += AT_ONCE) {
    signal.throwIfAborted()
    progress(first / parts.length, 'Copying the sounds')
    await Promise.all(
      parts.slice(first, first + AT_ONCE).map(async (part, some) => {
        const index = first + some
        const place = places.get(part.soundId)
        if (!place) throw goneFromShelves(doc, part.soundId)
        const inside = `sounds/${names[index] as string}`
        const sums = await copy(deps, part, place, path.join(folder, inside), signal)
        const { name = place.name, licence = '', source = '' } = known.get(part.soundId) ?? {}
        files[index] = { path: inside, kind: 'sound', title: shortTitle(name), ...sums }
        sounds[index] = {
          id: part.id,
          path: inside,
          part: part.part,
          name: shortTitle(name),
          licence,
          source,
        }
      }),
    )
  }
  const whole = handles === null ? 0 : parts.filter(({ part }) => part === null).length
  const which = whole === 1 ? 'One recording is' : `${whole} recordings are`
  const remark = `${which} played at another speed, backwards, on the move or by some of its channels somewhere, and whole in the package.`
  return { parts, sounds, files, remarks: whole > 0 ? [remark] : [] }
}

function nameOf({ part }: SoundPart, place: SoundPlace | undefined): string {
  const { name, ext } = path.parse(place?.path ?? 'missing')
  return part === null ? `${fileName(name)}${ext.toLowerCase()}` : `${fileName(name)}.wav`
}

async function copy(
  { media, files }: FileDeps,
  { part }: SoundPart,
  place: SoundPlace,
  out: string,
  signal: AbortSignal,
): Promise<FileSums> {
  await writeFile(out, '', { flag: 'wx' })
  const source = sourceOf(place)
  if (part === null) return files.run({ do: 'copy', file: source.file, out }, { signal })
  const { file, channels } = await media.pcm(source)
  return files.run({ do: 'cut', file, channels, ...part, out }, { signal })
}
