import { refuse, type Result } from '../errors.js'
import { chain, type Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import type { SoundToPlace } from '../sounds/prepared.js'
import type { Category } from '../reel/categories.js'
import { placeSound } from './placeSound.js'
import { groupClips } from './stacks.js'

/** One of the sounds that are heard together at a moment. */
export interface Layer {
  readonly id: string
  /** Id for the track, should one have to be made. */
  readonly newTrackId: string
  readonly category: Category
  readonly sound: SoundToPlace
}

/**
 * Keeps sounds that belong together, all with their sync points on one frame, each on a free track; several become a group.
 *
 * @param args.frame - Frame from the reel's first frame.
 * @param args.group - Id of the group, should there be several.
 */
export function keepLayers(
  doc: ReelDocument,
  args: { layers: readonly Layer[]; cueId: string | null; frame: number; group: string },
): Result<Change> {
  const { layers, cueId, frame, group } = args
  const [first] = layers
  if (!first) return refuse('CORE_NOTHING_DONE', 'keep', 'nothing is tried')
  const label = layers.length === 1 ? `Keep ${first.sound.name}` : `Keep ${layers.length} layers`
  const place = layers.map((layer) => (now: ReelDocument) => placeSound(now, { ...layer, cueId, frame }))
  const together = (now: ReelDocument): Result<Change> =>
    groupClips(now, { ids: layers.map((layer) => layer.id), group })
  return chain(doc, label, layers.length === 1 ? place : [...place, together])
}
