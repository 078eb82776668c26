import { watch, type FSWatcher } from 'node:fs'
import { readdir } from 'node:fs/promises'
import path from 'node:path'
import type { DataSource } from 'typeorm'
import { ShelfEntity } from '../db/entities.js'
import type { ShelfRow } from '../db/rows.js'

/** Changes come in heaps, as files are copied: they are looked at once it has been quiet for this long. */
const QUIET_MS = 3000
/** The system gives only so many watches; beyond, a shelf is looked at when it is indexed again. */
const MOST_FOLDERS = 8000

/**
 * Watches the folders of shelves and says when something has happened in one.
 * Where the system can't watch (too many folders, a network disk that tells nothing), the shelf's row says so.
 */
export class ShelfWatcher {
  private readonly watched = new Map<string, FSWatcher[]>()
  private readonly timers = new Map<string, NodeJS.Timeout>()
  private stopped = false

  constructor(
    private readonly db: DataSource,
    private readonly onChange: (shelf: ShelfRow) => void,
    private readonly quietMs = QUIET_MS,
  ) {}

  /** Watches a shelf as its folders are now; called again after each index run, since folders come and go. */
  async watch(shelf: ShelfRow): Promise<void> {
    const folders = await foldersBelow(shelf.root)
    if (this.stopped) return
    this.forget(shelf.id)
    const watchers: FSWatcher[] = []
    let complete = folders.length > 0 && folders.length <= MOST_FOLDERS
    try {
      for (const folder of complete ? folders : []) {
        const watcher = watch(folder, () => this.changed(shelf))
        watcher.on('error', () => watcher.close())
        watchers.push(watcher)
      }
    } catch {
      // No watches left: all or nothing, so that the row does not say what is only half true.
      for (const watcher of watchers.splice(0)) watcher.close()
      complete = false
    }
    this.watched.set(shelf.id, watchers)
    await this.db.getRepository(ShelfEntity).update({ id: shelf.id }, { watched: complete })
  }

  /** Ends all watching. */
  stop(): void {
    this.stopped = true
    for (const id of [...this.watched.keys()]) this.forget(id)
    for (const timer of this.timers.values()) clearTimeout(timer)
  }

  private forget(id: string): void {
    for (const watcher of this.watched.get(id) ?? []) watcher.close()
    this.watched.delete(id)
  }

  private changed(shelf: ShelfRow): void {
    clearTimeout(this.timers.get(shelf.id))
    this.timers.set(
      shelf.id,
      setTimeout(() => this.onChange(shelf), this.quietMs),
    )
  }
}

async function foldersBelow(root: string): Promise<string[]> {
  const found: string[] = []
  const waiting = [root]
  for (
    let folder = waiting.pop();
    folder !== undefined && found.length <= MOST_FOLDERS;
    folder = waiting.pop()
  ) {
    const entries = await readdir(folder, { withFileTypes: true }).catch(() => null)
    if (!entries) continue
    found.push(folder)
    for (const entry of entries)
      if (entry.isDirectory() && !entry.name.startsWith('.')) waiting.push(path.join(folder, entry.name))
  }
  return found
}
