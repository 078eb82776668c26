import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { DataSource } from 'typeorm'
import { openDatabase } from '../../apps/server/src/db/dataSource.js'
import { makeServices } from '../../apps/server/src/services.js'
import { readSettings } from '../../apps/server/src/settings.js'
import { indexShelf } from '../../apps/server/src/sounds/indexShelf.js'
import { makeShelf } from '../../apps/server/src/sounds/shelves.js'
import { realServer, type RealServer } from '../../e2e/support/server.js'

const ARCHIVE = '/usr/share/games/ufoai/base/0snd.pk3'

/** A server whose only shelf are recordings that nobody here named: the sounds of the Debian package ufoai-sound. */
export async function foreignShelf(): Promise<{
  server: RealServer
  db: DataSource
  close: () => Promise<void>
}> {
  const root = mkdtempSync(path.join(tmpdir(), 'yodel-foreign-'))
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
  if (counts.problems > 0) console.error(`${counts.problems} could not be read`)
  return {
    server,
    db,
    close: async () => {
      await Promise.all([services.pool.destroy(), services.ears.destroy()])
      await db.destroy()
      await server.close()
      rmSync(root, { recursive: true, force: true })
    },
  }
}
