import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { DataSource } from 'typeorm'
import { indexShelf } from '../../apps/server/src/sounds/indexShelf.js'
import { makeShelf } from '../../apps/server/src/sounds/shelves.js'
import { realServer, type RealServer } from '../../e2e/support/server.js'
import { ownServices } from './ownServices.js'

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
  const own = await ownServices(server.databaseUrl, root)
  const shelf = await makeShelf(own.db, folder, 'Package')
  const counts = await indexShelf(own.services, shelf.id, {
    id: 'bench',
    signal: new AbortController().signal,
    progress: () => undefined,
  })
  if (counts.problems > 0) console.error(`${counts.problems} could not be read`)
  return {
    server,
    db: own.db,
    close: async () => {
      await own.close()
      await server.close()
      rmSync(root, { recursive: true, force: true })
    },
  }
}
