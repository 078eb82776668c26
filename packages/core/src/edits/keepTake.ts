import { refuse, type Result } from '../errors.js'
import { chain, type Change } from '../reel/change.js'
import { rateOf, type ReelDocument } from '../reel/document.js'
import type { Category } from '../reel/categories.js'
import type { SoundToPlace } from '../sounds/prepared.js'
import { sampleToFrame } from '../time/convert.js'
import { clipAtSample, layClip } from './placeSound.js'
import { spotCue } from './spotCue.js'

/** A sound that was performed: its attack on a sample of the reel. */
export interface Performed {
  readonly sound: SoundToPlace
  readonly category: Category
  readonly at: number
}

/** What cues are made of what was performed: one for the whole run of a category, one for each sound, none. */
export type TakeCues = 'run' | 'each' | 'none'

/**
 * Lays what was performed, each sound on a free track of its category, as one step.
 *
 * @param args.words - What the cue of a run is called; each sound's own name where every one has a cue
 * @param args.newId - Makes ids for clips, tracks and cues
 */
export function keepTake(
  doc: ReelDocument,
  args: {
    performed: readonly Performed[]
    cues: TakeCues
    words: string
    newId: () => string
    /** The cue that all of it serves, where none is made for it. */
    cueId?: string
    label?: string
  },
): Result<Change> {
  const { performed, cues, words, newId, cueId: served = null } = args
  if (performed.length === 0) return refuse('CORE_NOTHING_DONE', 'keep', 'nothing was performed')
  const inTime = performed.toSorted((a, b) => a.at - b.at)
  const runs = new Map<Category, string>()
  const steps: ((now: ReelDocument) => Result<Change>)[] = []
  const spot = (category: Category, those: readonly Performed[], what: string): string => {
    const id = newId()
    steps.push((now) => spotCue(now, { id, category, ...spanOf(now, those), words: what }))
    return id
  }
  if (cues === 'run')
    for (const category of new Set(inTime.map((one) => one.category)))
      runs.set(
        category,
        spot(
          category,
          inTime.filter((one) => one.category === category),
          words,
        ),
      )
  for (const one of inTime) {
    const { sound, category, at } = one
    const cueId = cues === 'each' ? spot(category, [one], sound.name) : (runs.get(category) ?? served)
    const clip = clipAtSample({ id: newId(), trackId: '', cueId, at, sound })
    const newTrackId = newId()
    steps.push((now) => layClip(now, clip, { category, newTrackId, label: `Keep ${sound.name}` }))
  }
  const count = `${performed.length} ${performed.length === 1 ? 'sound' : 'sounds'}`
  const label = args.label ?? `Keep what was performed, ${count}`
  return chain(doc, label, steps)
}

/** The frames that some sounds take, from the first attack to the last one's end. */
function spanOf(doc: ReelDocument, those: readonly Performed[]): { in: number; out: number } {
  const rate = rateOf(doc)
  const first = sampleToFrame(Math.max(0, (those[0] as Performed).at), rate)
  const end = Math.max(...those.map(({ sound, at }) => at + (sound.to ?? sound.recorded) - sound.sync))
  return { in: first, out: Math.max(first + 1, sampleToFrame(Math.max(0, end - 1), rate) + 1) }
}
