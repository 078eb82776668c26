import { stat } from 'node:fs/promises'
import path from 'node:path'
import {
  aimsOf,
  currentCut,
  dbFromGain,
  edgePlaces,
  frameToSample,
  gainFromDb,
  measuredSchema,
  NO_AIMS,
  hasChannels,
  partsOfMedia,
  rateOf,
  reelOf,
  type Clip,
  type FrameRateId,
  type Measured,
  type MixState,
  type Recipe,
  type ReelDocument,
  type SoundState,
  type TurnoverFacts,
} from '@yodel/core'
import type { DataSource } from 'typeorm'
import { PictureEntity } from '../db/entities.js'
import { sourceOf } from '../media/findSource.js'
import type { MediaStore } from '../media/MediaStore.js'
import { fingerprintOf } from '../sounds/readTags.js'
import type { SoundPlace } from '../sounds/soundRows.js'

/** A recording in use, as the index knows it. */
interface Used extends SoundPlace {
  readonly licence: string
  readonly source: string
  readonly sampleRate: number
  readonly length: number
  readonly unreadable: boolean
  readonly altered: Date | null
}

/** Silence, in dBFS, where there is no sample to speak of. */
const SILENT_DB = -200

/**
 * What findings need and the document does not know: whether its recordings are there and what they were, their licences,
 * the picture, what was measured of the mix.
 *
 * @param measured - What has just been measured; what was measured last when it is null.
 */
export async function gatherFacts(
  { db, media }: { db: DataSource; media: MediaStore },
  doc: ReelDocument,
  recipe: Recipe | null,
  measured: Measured | null = null,
): Promise<TurnoverFacts> {
  const clips = [...doc.clip.values()]
  const used = (await db.query(
    `SELECT s.id, s.path, s.fingerprint, s.name, s.channels, h.root, s.licence, s.source, s.sample_rate AS "sampleRate", s.length, s.altered,
       EXISTS (SELECT 1 FROM jsonb_array_elements(h.problems) AS p WHERE p->>'path' = s.path) AS unreadable
     FROM sound s JOIN shelf h ON h.id = s.shelf_id WHERE s.id = ANY($1)`,
    [[...new Set(clips.map((clip) => clip.soundId))]],
  )) as Used[]
  const sounds: SoundState[] = []
  for (const one of used) sounds.push(await stateOf(one))
  const places = new Map(used.map((one) => [one.id, one]))
  const edges: TurnoverFacts['edges'] = []
  // One after the other: thousands of sounds must not open thousands of files at once.
  for (const clip of clips) {
    const edge = await edgesOf(media, places, clip)
    if (edge) edges.push(edge)
  }
  const pictureId = currentCut(doc)?.pictureId ?? null
  const picture =
    pictureId === null ? null : await db.getRepository(PictureEntity).findOneBy({ id: pictureId })
  return {
    ...{ sounds, recipe: recipe ? aimsOf(recipe) : NO_AIMS },
    mix: recipe && mixState(measured ?? (await lastMeasured(db, reelOf(doc).id, recipe)), recipe, doc),
    ...{ edges, altered: await alteredSince(db, doc, places) },
    picture: picture && { id: picture.id, rate: picture.rate as FrameRateId, frames: picture.frames },
  }
}

/** Ids of clips that stood in the reel, with the recording that they play, before its file was found to hold something else. */
async function alteredSince(
  db: DataSource,
  doc: ReelDocument,
  places: ReadonlyMap<string, Used>,
): Promise<string[]> {
  const clips = [...doc.clip.values()].filter(({ soundId }) => places.get(soundId)?.altered)
  if (clips.length === 0) return []
  const rows = (await db.query(
    `SELECT clip.id, min(c.at) AS at FROM json_to_recordset($2) AS clip(id text, "soundId" text)
     JOIN change c ON c.reel_id = $1 AND (c.change->'added' @> jsonb_build_array(jsonb_build_object('id', clip.id, 'soundId', clip."soundId"))
       OR c.change->'updated' @> jsonb_build_array(jsonb_build_array(jsonb_build_object('id', clip.id, 'soundId', clip."soundId"))))
     GROUP BY clip.id`,
    [reelOf(doc).id, JSON.stringify(clips.map(({ id, soundId }) => ({ id, soundId })))],
  )) as { id: string; at: Date }[]
  return rows.flatMap(({ id, at }) => {
    const altered = places.get(doc.clip.get(id)?.soundId ?? '')?.altered
    return altered && at < altered ? [id] : []
  })
}

/** What the last mix or turnover of a reel measured with the same treatment. */
async function lastMeasured(db: DataSource, reelId: string, recipe: Recipe): Promise<Measured | null> {
  const [row] = (await db.query(
    `SELECT result->'measured' AS measured FROM job WHERE payload->>'reelId' = $1 AND state = 'done'
       AND result->'measured'->'treatment' = $2::jsonb AND result->'measured'->>'loudness' IS NOT NULL ORDER BY created_at DESC LIMIT 1`,
    [reelId, JSON.stringify(recipe.treatment)],
  )) as { measured: unknown }[]
  return row ? measuredSchema.parse(row.measured) : null
}

/** What was measured, as findings want it. Places were looked for over a true peak of that time; where it was higher than the one asked for now, or none, only the mix as a whole can be told of. */
function mixState(
  measured: Measured | null,
  { truePeak: asked }: Recipe,
  doc: ReelDocument,
): MixState | null {
  if (!measured) return null
  const { seq, loudness, truePeak, limit } = measured
  const told = (overs: MixState['overs']): MixState => ({ seq, loudness, truePeak, overs })
  if (asked === null) return told([])
  if (limit !== null && limit <= asked) return told(measured.overs.filter(({ peak }) => peak > asked))
  if (truePeak === null || truePeak <= asked) return told([])
  const to = frameToSample(reelOf(doc).length, rateOf(doc))
  return told([{ from: 0, to, what: 'The mix, somewhere,', peak: truePeak }])
}

async function stateOf(used: Used): Promise<SoundState> {
  const { id, name, licence, source, sampleRate, length } = used
  const file = await stat(path.join(used.root, used.path)).catch(() => null)
  const changed =
    file !== null && fingerprintOf({ size: file.size, mtimeMs: file.mtimeMs }) !== used.fingerprint
  const state = file === null ? 'missing' : used.unreadable ? 'unreadable' : changed ? 'changed' : 'here'
  return { id, name, state, licence, source, sampleRate, length: Math.round(length) }
}

/** How loud a sound is where it is cut hard; null where it fades, and while its recording has not been decoded for anything else. */
async function edgesOf(
  media: MediaStore,
  places: ReadonlyMap<string, Used>,
  clip: Clip,
): Promise<TurnoverFacts['edges'][number] | null> {
  const { mediaId, first, last } = edgePlaces(clip)
  const parts = partsOfMedia(mediaId)
  const place = places.get(parts.soundId)
  if (!place || !hasChannels(place.channels, parts.channels) || (first === null && last === null)) return null
  const source = sourceOf(place, parts)
  const level = async (at: number | null): Promise<number | null> => {
    if (at === null) return SILENT_DB
    const frame = await media.frameAt(source, at)
    if (!frame) return null
    const highest = Math.max(...frame.map(Math.abs)) * gainFromDb(clip.gain)
    return highest > 0 ? dbFromGain(highest) : SILENT_DB
  }
  const [head, tail] = [await level(first), await level(last)]
  return head === null || tail === null ? null : { clipId: clip.id, first: head, last: tail }
}
