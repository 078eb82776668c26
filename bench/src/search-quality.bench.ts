// Search over recordings that nobody here named: the sounds of the Debian package ufoai-sound, with relevant ones marked by hand for 30 queries.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { makeShelf } from '../../apps/server/src/sounds/shelves.js'
import { openDatabase } from '../../apps/server/src/db/dataSource.js'
import { answerCue, answerSearch } from '../../apps/server/src/search/answerSearch.js'
import { makeServices } from '../../apps/server/src/services.js'
import { readSettings } from '../../apps/server/src/settings.js'
import { indexShelf } from '../../apps/server/src/sounds/indexShelf.js'
import { realServer } from '../../e2e/support/server.js'
import { report } from './report.js'

const ARCHIVE = '/usr/share/games/ufoai/base/0snd.pk3'
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

const root = mkdtempSync(path.join(tmpdir(), 'yodel-quality-'))
const folder = path.join(root, 'sounds')
execFileSync('unzip', ['-q', ARCHIVE, 'sound/*', '-d', folder])
const server = await realServer({ demo: false })
const db = await openDatabase(server.databaseUrl)
const settings = readSettings({
  YODEL_DATABASE_URL: server.databaseUrl,
  YODEL_DATA_DIR: path.join(root, 'data'),
  YODEL_SOUND_ROOTS: root,
})
const services = makeServices(settings, db, { error: console.error, info: () => undefined } as never)
const shelf = await makeShelf(db, folder, 'Package')
const counts = await indexShelf(services, shelf.id, {
  id: 'bench',
  signal: new AbortController().signal,
  progress: () => undefined,
})
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
if (counts.problems > 0) console.error(`${counts.problems} could not be read`)
await Promise.all([services.pool.destroy(), services.ears.destroy()])
await db.destroy()
await server.close()
rmSync(root, { recursive: true, force: true })
