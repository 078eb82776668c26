import type { FastifyBaseLogger } from 'fastify'
import type { Piscina } from 'piscina'
import type { DataSource } from 'typeorm'
import { JobQueue } from './jobs/JobQueue.js'
import { Roots } from './media/Roots.js'
import { madeShelf } from './made/madeShelf.js'
import { MediaStore } from './media/MediaStore.js'
import { preparePicture, tellPicture } from './pictures/pictures.js'
import type { Settings } from './settings.js'
import { ShelfEntity } from './db/entities.js'
import { reasonOf } from './errors.js'
import { reindex } from './sounds/reindex.js'
import { ShelfWatcher } from './sounds/ShelfWatcher.js'
import type { HearOrder, Hearing } from './sounds/hearWorker.js'
import type { StackOrder, StackReport } from './stacks/stackWorker.js'
import { writeStacks } from './stacks/writeStacks.js'
import { addCounts, indexShelf } from './sounds/indexShelf.js'
import { makePool } from './processes/threads.js'
import { bounceReel } from './turnover/audio/bounceReel.js'
import type { MixOrder, MixReport } from './turnover/audio/mixWorker.js'
import { copyTurnover } from './turnover/kept/copyTurnover.js'
import type { FileOrder, FileSums } from './turnover/make/fileWorker.js'
import { gatherSounds } from './turnover/gather/gatherSounds.js'
import { makeTurnover } from './turnover/make/makeTurnover.js'
import { ESPEAK, FLITE_ENGINE } from './voices/debianEngines.js'
import { TakeFiles } from './record/TakeFiles.js'
import { ownEngines } from './voices/ownEngines.js'
import { VoiceBox } from './voices/VoiceBox.js'
import { openPackage } from './turnover/open/openPackage.js'

/** The parts that routes and jobs are given. */
export interface Services {
  readonly settings: Settings
  readonly db: DataSource
  readonly media: MediaStore
  /** Folders that may be read. */
  readonly roots: Roots
  readonly jobs: JobQueue
  /** Threads that mix. */
  readonly pool: Piscina<MixOrder, MixReport>
  /** Threads that copy, cut and sum up files. */
  readonly files: Piscina<FileOrder, FileSums>
  /** Threads that listen to recordings. */
  readonly ears: Piscina<HearOrder, Hearing>
  /** Threads that render stacks. */
  readonly stackers: Piscina<StackOrder, StackReport>
  /** What says scratch lines. */
  readonly voices: VoiceBox
  /** Takes that are being recorded. */
  readonly takes: TakeFiles
  /** Notices what happens in the folders of shelves. */
  readonly watcher: ShelfWatcher
  /** Shelves that something has happened on while they were being indexed. */
  readonly again: Set<string>
  readonly clock: () => Date
}

/** Stops whatever the parts have running, so that the process can end. */
export async function closeServices({ db, jobs, watcher, ...parts }: Services): Promise<void> {
  watcher.stop()
  await jobs.stop()
  await Promise.all([parts.pool, parts.files, parts.ears, parts.stackers].map((threads) => threads.destroy()))
  await db.destroy()
}

/** Puts the parts together; nothing runs yet. */
export function makeServices(
  settings: Settings,
  db: DataSource,
  log: Pick<FastifyBaseLogger, 'error' | 'info'>,
): Services {
  const media = new MediaStore(settings)
  const roots = new Roots(settings)
  const pool = makePool<MixOrder, MixReport>('turnover/audio/mixWorker')
  const files = makePool<FileOrder, FileSums>('turnover/make/fileWorker')
  const ears = makePool<HearOrder, Hearing>('sounds/hearWorker')
  const stackers = makePool<StackOrder, StackReport>('stacks/stackWorker')
  const voices = new VoiceBox([...ownEngines(settings.voices), FLITE_ENGINE, ESPEAK], () =>
    media.folder('incoming'),
  )
  const takes = new TakeFiles(media)
  const again = new Set<string>()
  const clock = (): Date => new Date()
  const jobs: JobQueue = new JobQueue(
    db,
    {
      picture: ({ id }, context) => preparePicture({ db, settings, media }, id, context),
      index: async ({ shelfId }, context) => {
        const counts = await indexShelf({ db, settings, media, ears }, shelfId, context)
        for (;;) {
          await watcher.watch(await db.getRepository(ShelfEntity).findOneByOrFail({ id: shelfId }))
          if (!again.delete(shelfId)) return counts
          addCounts(counts, await indexShelf({ db, settings, media, ears }, shelfId, context))
        }
      },
      bounce: (payload, context) => bounceReel({ db, media, pool, clock }, payload, context),
      open: (payload, context) => openPackage({ db, settings, media, ears }, payload, context),
      deliver: (payload, context) => copyTurnover({ db, media, files }, payload, context),
      gather: (payload, context) => gatherSounds({ db, settings, media, files, ears }, payload, context),
      stacks: async (payload, context) => {
        try {
          return await writeStacks({ db, media, stackers, clock }, payload, context)
        } finally {
          // Also what was written before it broke off is to be found.
          const shelf = await madeShelf({ db, media }, payload.reelId)
          if (shelf) await reindex({ db, jobs, again }, shelf.id)
        }
      },
      turnover: (payload, context) =>
        makeTurnover({ db, media, pool, files, clock, settings }, payload, context),
    },
    log,
    async ({ kind, payload }, state, message) => {
      if (kind === 'picture') await tellPicture(db, String(payload['id']), state, message)
    },
  )
  const watcher = new ShelfWatcher(
    db,
    (shelf) =>
      void reindex({ db, jobs, again }, shelf.id).catch((error: unknown) =>
        log.error(`shelves: ${reasonOf(error)}`),
      ),
  )
  return {
    settings,
    db,
    media,
    roots,
    jobs,
    pool,
    files,
    ears,
    stackers,
    voices,
    takes,
    watcher,
    again,
    clock,
  }
}
