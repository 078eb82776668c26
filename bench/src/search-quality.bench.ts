// Search over recordings that nobody here named: the sounds of the Debian package ufoai-sound, with relevant ones marked by hand for 30 queries.
import { answerCue, answerSearch } from '../../apps/server/src/search/answerSearch.js'
import { foreignShelf } from './foreignShelf.js'
import { report } from './report.js'

const AT = 20

/** Query, and the paths that are relevant to it: everything that an editor who asked so would want to hear. */
const QUERIES: readonly (readonly [string, RegExp])[] = [
  ['breaking glass', /breakglass/],
  ['glass', /breakglass/],
  ['wood break', /breakwood/],
  ['metal breaking', /breakmetal/],
  ['door open', /doors\/.*open/],
  ['door closes', /doors\/.*close/],
  ['porte', /doors\//],
  ['wooden footsteps', /footsteps\/wood/],
  ['steps gravel', /footsteps\/gravel/],
  ['schritte schnee', /footsteps\/snow/],
  ['footsteps stone', /footsteps\/stone/],
  ['footsteps', /footsteps\//],
  ['splash', /splash/],
  ['thunder', /thunder/],
  ['donner', /thunder/],
  ['fire', /ambience\/.*fire/],
  ['fuego', /ambience\/.*fire/],
  ['water', /\/water/],
  ['wind', /wind/],
  ['scream', /scream/],
  ['male death', /maledeath/],
  ['shotgun', /shotgun/],
  ['pistol reload', /reload-pistol/],
  ['explosion', /explosion/],
  ['blast', /explosion|blast/],
  ['machinery', /machine/],
  ['creaking', /creak/],
  ['crickets', /cricket/],
  ['sword', /sword/],
  ['clic', /ui\/click/],
]

const { db, close } = await foreignShelf()
const paths = ((await db.query('SELECT path FROM sound WHERE NOT missing')) as { path: string }[]).map(
  (row) => row.path,
)
const scope = { shelves: null, kit: null, showId: null, now: new Date() }

for (const [name, answer] of [
  ['search-quality', answerSearch],
  ['search-quality.as-cue', answerCue],
] as const) {
  let recall = 0
  for (const [text, relevant] of QUERIES) {
    const { sounds } = await answer(db, {
      text,
      scope,
      sort: 'match',
      down: false,
      beyond: null,
      cursor: null,
    })
    const wanted = Math.min(AT, paths.filter((one) => relevant.test(one)).length)
    const met = sounds.slice(0, AT).filter((sound) => relevant.test(sound.path)).length
    recall += met / wanted
    if (process.env['YODEL_BENCH_SAY'] && met < wanted)
      console.error(
        name,
        text,
        `${met} of ${wanted}`,
        sounds.slice(0, 6).map((sound) => sound.path.replace('sound/', '')),
      )
  }
  report({
    name: `${name}.recall-at-20`,
    value: (100 * recall) / QUERIES.length,
    unit: `%, ${QUERIES.length} queries over ${paths.length} sounds`,
  })
}
await close()
