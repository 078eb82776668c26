import path from 'node:path'
import {
  expectOk,
  SHIPPED_RECIPES,
  type Recipe,
  type Reel,
  type ReelRecord,
  type SoundToPlace,
} from '@yodel/core'
import {
  AFTER_TURNOVER,
  CALL_REEL,
  callRecords,
  CROWD_REEL,
  CROWD_SHOW,
  crowdRecords,
  DEMO_MOVIE,
  DEMO_REEL,
  DEMO_SHOW,
  DEMO_PLAN,
  demoPools,
  demoRecords,
  MOVIE_TWO,
  REEL_TWO,
  reelTwoRecords,
  SECOND_REEL,
  secondRecords,
  writeShelves,
} from '@yodel/demo'
import { PictureEntity, RecordEntity, SoundEntity } from '../db/entities.js'
import { takeFile } from '../pictures/pictures.js'
import { commitChange } from '../reels/commitChange.js'
import { commitOf } from '../reels/commitOf.js'
import { createReelRows, loadStand } from '../reels/reelStore.js'
import { keepPool, listPools } from '../sounds/pools.js'
import { keep, listKept } from '../shows/keptWithShow.js'
import { makeShelf } from '../sounds/shelves.js'
import type { Services } from '../services.js'
import { indexShelf } from '../sounds/indexShelf.js'
import { makeTurnover } from '../turnover/make/makeTurnover.js'
import { seedMade } from './seedMade.js'

const PICTURE_ID = 'demo-picture-1'
const PICTURE_TWO = 'demo-picture-2'
const TURNOVER_ID = 'demo-turnover-1'
const PERSON = 'Mara Reyl'
/** What the demo hands over once: a mix for the cutting room, and paper. */
const TEMP_MIX: Recipe = {
  ...(SHIPPED_RECIPES[1] as Recipe),
  ...{ name: 'Temp mix', twoPop: true, movie: 'none', lists: ['mixPdf', 'cuesPdf', 'otio'] },
}

/**
 * Makes the demo on the first start: sounds, shelves, picture and reel.
 * Each step leaves alone what is there, so a start that was killed in the middle is taken up by the next.
 * A reel that somebody has worked on is never touched.
 */
export async function seedDemo(services: Services, say: (line: string) => void = console.log): Promise<void> {
  const { db, settings } = services
  const isThere = (reelId: string): Promise<boolean> => db.getRepository(RecordEntity).existsBy({ reelId })
  if (!(await isThere(DEMO_REEL.id))) await seedShow(services, say)
  if (!settings.crowd || (await isThere(CROWD_REEL.id))) return
  say('Making the crowded show.')
  const soundOf = await soundsByName(services)
  await makeReel(services, CROWD_REEL, PERSON, 'A crowd', crowdRecords(PICTURE_ID, soundOf), CROWD_SHOW)
}

async function seedShow(services: Services, say: (line: string) => void): Promise<void> {
  const { db, settings, media } = services
  say('Making the demo show; this takes about a minute, the first time only.')
  const folder = await media.folder('demo')
  for (const shelf of await writeShelves(folder, settings.ffmpeg)) {
    say(`  indexing the shelf ${shelf}`)
    const { id } = await makeShelf(db, path.join(folder, shelf), shelf)
    await indexShelf(services, id, { ...IN_PASSING, id: 'demo' })
  }
  const pictures = { db, settings, media, jobs: services.jobs }
  for (const [movie, id] of [
    [DEMO_MOVIE, PICTURE_ID],
    [MOVIE_TWO, PICTURE_TWO],
  ] as const)
    if (!(await db.getRepository(PictureEntity).existsBy({ id }))) await takeFile(pictures, movie, id)
  const soundOf = await soundsByName(services)
  await makeReel(
    services,
    REEL_TWO,
    PERSON,
    'Spotting and first sounds',
    reelTwoRecords(PICTURE_TWO, soundOf),
  )
  say('  handing over reel 2')
  await handOver(services)
  await makeReel(services, SECOND_REEL, 'Idris Koch', 'Spotting', secondRecords(PICTURE_ID))
  await makeReel(services, CALL_REEL, 'Idris Koch', 'Spotting', callRecords(PICTURE_TWO))
  await seedMade(services, say)
  const there = new Set((await listPools(db, REEL_TWO.id)).map(({ id }) => id))
  for (const pool of demoPools(soundOf)) if (!there.has(pool.id)) await keepPool(db, REEL_TWO.id, pool)
  if ((await listKept(db, 'stack_plan', REEL_TWO.id)).length === 0)
    await keep(db, 'stack_plan', REEL_TWO.id, DEMO_PLAN)
  await makeReel(services, DEMO_REEL, PERSON, 'Spotting and first sounds', demoRecords(PICTURE_ID, soundOf))
}

/** Finds recordings of the demo's shelves by their names. */
async function soundsByName({ db }: Services): Promise<(name: string) => SoundToPlace> {
  const rows = new Map((await db.getRepository(SoundEntity).find()).map((row) => [row.name, row]))
  return (name) => {
    const row = rows.get(name)
    if (!row) throw new Error(`the demo has no sound called ${name}`)
    return { id: row.id, name: row.name, recorded: row.length, sync: row.sync }
  }
}

const IN_PASSING = { signal: new AbortController().signal, progress: () => undefined }

/** Makes the first turnover of reel 2, and what was changed since. */
async function handOver(services: Services): Promise<void> {
  const { db, clock } = services
  const order = { reelId: REEL_TWO.id, recipe: TEMP_MIX, name: 'Temp mix for the edit', by: PERSON }
  await makeTurnover(services, order, { ...IN_PASSING, id: TURNOVER_ID })
  for (const [index, edit] of AFTER_TURNOVER.entries()) {
    const { doc, seq } = await loadStand(db, REEL_TWO.id)
    if (seq !== index + 1) return
    await commitChange(db, REEL_TWO.id, PERSON, clock(), commitOf(expectOk(edit(doc)), seq))
  }
}

async function makeReel(
  { db, clock }: Services,
  facts: Reel,
  author: string,
  label: string,
  added: ReelRecord[],
  show = DEMO_SHOW,
): Promise<void> {
  if (await db.getRepository(RecordEntity).existsBy({ reelId: facts.id })) return
  await createReelRows(db, {
    ...{ showId: show.id, showName: show.name, company: show.company },
    facts,
  })
  const change = { label, added, updated: [], removed: [] }
  await commitChange(db, facts.id, author, clock(), commitOf(change, 0))
}
