import type { RenderPlan } from '../../audio/renderPlan.js'
import type { Recipe } from '../../contract/recipes.js'
import { CATEGORIES, CATEGORY_NAMES, type Category } from '../../reel/categories.js'
import { reelOf, tracksAsPrinted, type ReelDocument } from '../../reel/document.js'
import { nameByRule, uniqueNames } from '../nameFiles.js'

/** From where in the mixer a file takes its sound: the whole, a stem, or a track (its strip's key). */
export type AudioSource =
  | { readonly of: 'whole' }
  | { readonly of: 'stem'; readonly category: Category }
  | { readonly of: 'track'; readonly key: string }

/** An audio file that a turnover makes. */
export interface AudioFile {
  readonly source: AudioSource
  /** What it holds, in words: "Stereo mix", "Foley", the track's name. */
  readonly title: string
  /** Without ending; no two of a turnover are the same. */
  readonly name: string
}

/**
 * The audio files that a recipe makes of a reel: the mix, a stem for each category of which anything sounds, a file for
 * each track that sounds, in the order in which they are printed.
 *
 * @param plan - What is to be heard, without guide and tries.
 * @param date - Day as names shall have it.
 */
export function audioFiles(
  doc: ReelDocument,
  plan: RenderPlan,
  recipe: Pick<Recipe, 'mix' | 'stems' | 'tracks' | 'nameRule'>,
  date: string,
): AudioFile[] {
  const reel = reelOf(doc)
  const named = { ...reel, nameRule: recipe.nameRule || reel.nameRule }
  const sounding = new Map(plan.strips.map((strip) => [strip.key, strip]))
  const stems = new Set(plan.strips.map((strip) => strip.stem))
  const file = (source: AudioSource, title: string, what: string): AudioFile => ({
    ...{ source, title },
    name: nameByRule(named, what, date),
  })
  const files = [
    ...(recipe.mix ? [file({ of: 'whole' }, 'Stereo mix', 'mix')] : []),
    ...(recipe.stems ? CATEGORIES.filter((category) => stems.has(category)) : []).map((category) =>
      file({ of: 'stem', category }, `Stem ${CATEGORY_NAMES[category]}`, `stem ${category}`),
    ),
    ...(recipe.tracks ? tracksAsPrinted(doc).filter((track) => sounding.has(track.id)) : []).map(
      ({ id, name, category }) => file({ of: 'track', key: id }, name, `${category} ${name}`),
    ),
  ]
  const names = uniqueNames(files.map(({ name }) => name))
  return files.map((one, index) => ({ ...one, name: names[index] as string }))
}
