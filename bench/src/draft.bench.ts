// Drafts of the demo's two reels, all their sounds taken out, and of a sheet for recordings that nobody here named: how many first
// choices are right, and how many have a right one among the first five, by marks made before anything was ranked. Every other mark
// is held back: look at those at the very end only (YODEL_BENCH_HELD=1). And how long a draft of 500 cues takes, and what it does to
// the hands meanwhile.
import {
  apply,
  documentOf,
  expectOk,
  spotCue,
  type RankedSound,
  type ReelDocument,
  type ReelState,
} from '@yodel/core'
import { realServer, type RealServer } from '../../e2e/support/server.js'
import { draftAll, type Ask } from './draftAll.js'
import { draftCrowd } from './draftCrowd.js'
import { FOREIGN_MARKS } from './draftForeignMarks.js'
import { MARKS } from './draftMarks.js'
import { foreignShelf } from './foreignShelf.js'
import { percentile, report } from './report.js'

const CROWD = 500

const asker =
  ({ url: origin }: RealServer): Ask =>
  async (url) =>
    (await fetch(origin + url)).json() as never

/** Cues with marks, first choices that are right, right ones among five; by half. */
const newHalves = () => ({ tuned: { all: 0, first: 0, five: 0 }, held: { all: 0, first: 0, five: 0 } })

/** Counts what was ranked for the cues of one sheet. @param isRight - Says whether a sound is marked for the cue with that number */
function count(
  halves: ReturnType<typeof newHalves>,
  words: readonly string[],
  drafted: ReadonlyMap<string, readonly RankedSound[]>,
  isRight: (index: number, ranked: RankedSound) => boolean,
): void {
  for (const [index, cue] of words.entries()) {
    const half = index % 2 === 0 ? 'tuned' : 'held'
    const ranked = drafted.get(cue)
    if (!ranked) throw new Error(`there is no cue “${cue}”`)
    const place = ranked.slice(0, 5).findIndex((one) => isRight(index, one))
    halves[half].all++
    if (place === 0) halves[half].first++
    if (place >= 0) halves[half].five++
    if (half === 'held' || place === 0) continue
    const best = ranked.slice(0, 3).map(({ sound, sure }) => `${sound.name} ${sure.toFixed(2)}`)
    const where = place < 0 ? 'not among the first five' : `number ${place + 1}`
    console.error(`“${cue}”: right is ${where}; ${best.join(', ')}`)
  }
}

function sayHalves(name: string, halves: ReturnType<typeof newHalves>): void {
  for (const half of ['tuned', 'held'] as const) {
    if (half === 'held' && !process.env['YODEL_BENCH_HELD']) continue
    const { all, first, five } = halves[half]
    report({ name: `${name}.first-right.${half}`, value: (100 * first) / all, unit: `% of ${all} cues` })
    report({ name: `${name}.among-five.${half}`, value: (100 * five) / all, unit: `% of ${all} cues` })
  }
}

/** The sheet for foreign recordings: one cue after the other, every eight seconds. */
function foreignSheet(empty: ReelDocument): ReelDocument {
  let doc = empty
  for (const [index, { category, words, seconds }] of FOREIGN_MARKS.entries()) {
    const at = index * 8 * 24
    const span = { in: at, out: at + Math.round(seconds * 24) }
    const spotted = expectOk(spotCue(doc, { id: `q${index}`, category, ...span, words }))
    doc = expectOk(apply(doc, spotted))
  }
  return doc
}

const server = await realServer({ demo: true })
const ask = asker(server)
const demo = newHalves()
for (const [reel, marks] of Object.entries(MARKS)) {
  const state = await ask<ReelState>(`/api/reels/${reel}`)
  const empty = documentOf(state.records.filter(({ kind }) => kind !== 'clip' && kind !== 'stack'))
  count(
    demo,
    marks.map((mark) => mark.words),
    await draftAll(ask, empty),
    (index, { sound }) => !!marks[index]?.right.test(sound.name),
  )
}
const reel = await ask<ReelState>('/api/reels/demo-reel-1')
const sheet = foreignSheet(documentOf(reel.records.filter(({ kind }) => kind === 'reel')))
const words = Object.values(MARKS).flatMap((marks) => marks.map((mark) => mark.words))
const { took, gaps } = await draftCrowd(server, ask, CROWD, words)
await server.close()

const foreign = await foreignShelf()
const found = newHalves()
count(
  found,
  FOREIGN_MARKS.map((mark) => mark.words),
  await draftAll(asker(foreign.server), sheet),
  (index, { sound }) => !!FOREIGN_MARKS[index]?.right.test(sound.path),
)
await foreign.close()

report({ name: 'draft.crowd', value: took, unit: `s for ${CROWD} cues` })
report({
  name: 'draft.hands',
  value: percentile(gaps, 0.99),
  unit: 'ms between two refreshes meanwhile, p99',
})
sayHalves('draft', demo)
sayHalves('draft.foreign', found)
