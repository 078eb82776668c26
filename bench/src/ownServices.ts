import path from 'node:path'
import { openDatabase } from '../../apps/server/src/db/dataSource.js'
import { makeServices } from '../../apps/server/src/services.js'
import { readSettings } from '../../apps/server/src/settings.js'

/**
 * The server's services in this process, on a database that is there: for what is measured without going through HTTP.
 *
 * @param root - Folder within which shelves may lie; their data go into `data` in it
 */
export async function ownServices(databaseUrl: string, root: string) {
  const db = await openDatabase(databaseUrl)
  const settings = readSettings({
    YODEL_DATABASE_URL: databaseUrl,
    YODEL_DATA_DIR: path.join(root, 'data'),
    YODEL_SOUND_ROOTS: root,
  })
  const services = makeServices(settings, db, { error: console.error, info: () => undefined } as never)
  const close = async (): Promise<void> => {
    await Promise.all([services.pool.destroy(), services.ears.destroy()])
    services.watcher.stop()
    await db.destroy()
  }
  return { db, services, close }
}
