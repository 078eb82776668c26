import type { RenderPlan } from '../audio/renderPlan.js'
import type { KeptRecipe, Recipe } from '../contract/recipes.js'
import type { Aims } from '../contract/turnover.js'

const PAPER = { size: 'A4', landscape: false, tracks: 6, way: 'packed', seconds: 60 } as const
const ALL_TREATED = { tracks: true, stems: true, whole: true } as const

/** The recipes that ship with Yodel; a show's own stand beside them. */
export const SHIPPED_RECIPES: readonly KeptRecipe[] = [
  {
    id: 'mixer',
    ships: true,
    name: 'To the mix',
    mix: true,
    stems: true,
    tracks: true,
    from: 'leader',
    twoPop: true,
    treatment: { tracks: true, stems: false, whole: false },
    truePeak: -1,
    loudness: null,
    lists: ['mixPdf', 'cuesPdf', 'cuesXlsx', 'edl', 'otio', 'adl', 'clipsCsv'],
    paper: PAPER,
    sounds: 'cut',
    handles: 2,
    movie: 'none',
    nameRule: '',
  },
  {
    id: 'review',
    ships: true,
    name: 'For review',
    mix: true,
    stems: false,
    tracks: false,
    from: 'leader',
    twoPop: false,
    treatment: ALL_TREATED,
    // EBU R 128: programmes at -23 LUFS, at most -1 dBTP; a tolerance of 1 LU is common practice for what is not final.
    truePeak: -1,
    loudness: { target: -23, tolerance: 1 },
    lists: ['cuesPdf'],
    paper: PAPER,
    sounds: 'none',
    handles: 0,
    movie: 'mp4',
    nameRule: '',
  },
  {
    id: 'editor',
    ships: true,
    name: 'To another editor',
    mix: true,
    stems: false,
    tracks: false,
    from: 'leader',
    twoPop: false,
    treatment: ALL_TREATED,
    truePeak: null,
    loudness: null,
    lists: ['cuesPdf', 'mixPdf'],
    paper: PAPER,
    sounds: 'whole',
    handles: 0,
    movie: 'none',
    nameRule: '',
  },
]

/** What a recipe asks of a turnover, as far as findings depend on it. */
export function aimsOf(recipe: Recipe): Aims {
  return {
    twoPop: recipe.twoPop && recipe.from === 'leader',
    truePeak: recipe.truePeak,
    loudness: recipe.loudness,
    handles: recipe.handles,
  }
}

/** The plan of a reel with only the treatment that a recipe wants in its audio. */
export function planFor(plan: RenderPlan, treatment: Recipe['treatment']): RenderPlan {
  return {
    ...plan,
    strips: treatment.tracks ? plan.strips : plan.strips.map((strip) => ({ ...strip, inserts: [] })),
    stems: treatment.stems ? plan.stems : {},
    whole: treatment.whole ? plan.whole : [],
  }
}
