import { randomUUID } from 'node:crypto'
import path from 'node:path'
import type { Reel, ReelRecord, SoundToPlace } from '@yodel/core'
import {
  DEMO_MOVIE,
  DEMO_REEL,
  DEMO_SHOW,
  demoRecords,
  SECOND_REEL,
  secondRecords,
  writeShelves,
} from '@yodel/demo'
import { PictureEntity, RecordEntity, SoundEntity } from '../db/entities.js'
import { takeFile } from '../pictures/pictures.js'
import { commitChange } from '../reels/commitChange.js'
import { createReelRows } from '../reels/reelStore.js'
import { makeShelf } from '../sounds/shelves.js'
import type { Services } from '../services.js'
import { indexShelf } from '../sounds/indexShelf.js'

const PICTURE_ID = 'demo-picture-1'

/**
 * Makes the demo on the first start: sounds, shelves, picture and reel.
 * Each step leaves alone what is there, so a start that was killed in the middle is taken up by the next.
 * A reel that somebody has worked on is never touched.
 */
export async function seedDemo(services: Services, say: (line: string) => void = console.log): Promise<void> {
  const { db, settings, media } = services
  if (await db.getRepository(RecordEntity).existsBy({ reelId: DEMO_REEL.id })) return
  say('Making the demo show; this takes about a minute, the first time only.')
  const folder = await media.folder('demo')
  for (const shelf of await writeShelves(folder, settings.ffmpeg)) {
    say(`  indexing the shelf ${shelf}`)
    const { id } = await makeShelf(db, path.join(folder, shelf), shelf)
    await indexShelf(services, id, {
      id: 'demo',
      signal: new AbortController().signal,
      progress: () => undefined,
    })
  }
  const pictures = { db, settings, media, jobs: services.jobs }
  if (!(await db.getRepository(PictureEntity).existsBy({ id: PICTURE_ID })))
    await takeFile(pictures, DEMO_MOVIE, PICTURE_ID)
  const rows = await db.getRepository(SoundEntity).find()
  const soundOf = (name: string): SoundToPlace => {
    const row = rows.find((candidate) => candidate.name === name)
    if (!row) throw new Error(`the demo has no sound called ${name}`)
    return { id: row.id, name: row.name, recorded: row.length, sync: row.sync }
  }
  await makeReel(services, SECOND_REEL, 'Idris Koch', 'Spotting', secondRecords(PICTURE_ID))
  await makeReel(
    services,
    DEMO_REEL,
    'Mara Reyl',
    'Spotting and first sounds',
    demoRecords(PICTURE_ID, soundOf),
  )
}

async function makeReel(
  { db, clock }: Services,
  facts: Reel,
  author: string,
  label: string,
  added: ReelRecord[],
): Promise<void> {
  if (await db.getRepository(RecordEntity).existsBy({ reelId: facts.id })) return
  await createReelRows(db, {
    showId: DEMO_SHOW.id,
    showName: DEMO_SHOW.name,
    company: DEMO_SHOW.company,
    facts,
  })
  await commitChange(db, facts.id, author, clock(), {
    changeId: randomUUID(),
    base: 0,
    role: 'do',
    target: null,
    change: { label, added, updated: [], removed: [] },
  })
}
