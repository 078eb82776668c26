import { existsSync, readFileSync } from 'node:fs'
import { mkdir, rename, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { z } from 'zod'
import { AppError } from '../errors.js'
import { isLoopback, type Settings } from '../settings.js'
import { isFolder } from './paths.js'

const FILE = z.object({ roots: z.array(z.string()) })

/**
 * Folders inside which shelves and movies may be picked: those of the settings, and those that whoever sits at the
 * server's own machine has added while it runs (decision 034). These are kept in the data folder.
 */
export class Roots {
  private added: readonly string[]
  private last: Promise<void> = Promise.resolve()

  /** @throws Error in words when what was kept can't be read */
  constructor(
    private readonly settings: Pick<Settings, 'soundRoots' | 'rootsNamed' | 'dataDir' | 'publicUrl'>,
  ) {
    this.added = this.read()
  }

  /** All of them, as full paths. */
  get all(): readonly string[] {
    return [...this.settings.soundRoots, ...this.added]
  }

  /** Those that were added. */
  get own(): readonly string[] {
    return this.added
  }

  /**
   * Whether somebody may change them: only from the server's own machine, since there is no sign-in that would tell
   * its owner; not where the settings name all there are to be, nor behind a proxy, for which everybody comes from there.
   *
   * @param ip - Where a request comes from
   */
  mayBeChangedBy(ip: string): boolean {
    const { rootsNamed, publicUrl } = this.settings
    return !rootsNamed && publicUrl === null && isLoopback(ip.replace(/^::ffff:/, ''))
  }

  /** Adds a folder. @throws AppError `PATH_MISSING` when it is none */
  async add(folder: string): Promise<void> {
    const full = path.resolve(folder)
    if (!path.isAbsolute(folder) || !(await isFolder(full)))
      throw new AppError(
        'PATH_MISSING',
        `There is no folder ${folder} on the server's machine. Check the spelling.`,
      )
    await this.change((added) => (added.includes(full) ? added : [...added, full]))
  }

  /** Takes one out again; shelves that lie there stay, and what is placed goes on sounding. */
  async remove(folder: string): Promise<void> {
    await this.change((added) => added.filter((root) => root !== folder))
  }

  private get file(): string {
    return path.join(this.settings.dataDir, 'roots.json')
  }

  private read(): readonly string[] {
    if (!existsSync(this.file)) return []
    try {
      return FILE.parse(JSON.parse(readFileSync(this.file, 'utf8'))).roots
    } catch {
      throw new Error(
        `${this.file} can't be read. Mend it, or take it away: then only the folders of the settings may be read.`,
      )
    }
  }

  /** One change after the other, so that none takes another's away. */
  private change(act: (added: readonly string[]) => readonly string[]): Promise<void> {
    const done = this.last.then(() => this.write(act(this.added)))
    this.last = done.catch(() => undefined)
    return done
  }

  private async write(roots: readonly string[]): Promise<void> {
    await mkdir(this.settings.dataDir, { recursive: true })
    await writeFile(`${this.file}.new`, JSON.stringify({ roots }))
    await rename(`${this.file}.new`, this.file)
    this.added = roots
  }
}
