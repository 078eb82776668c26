// @ts-check
// One Yodel at a time works on a data folder.
import { linkSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { being, isAlive } from './processes.mjs'

/**
 * What is running on a data folder: who started it, the server, and where it answers.
 * @typedef {{ starter: import('./processes.mjs').Being, server?: import('./processes.mjs').Being, url?: string }} Running
 */
/** @typedef {{ note: (facts: Partial<Running>) => void, release: () => void, left: Running | null }} Claim */

/** @param {string} dataDir */
const fileOf = (dataDir) => path.join(dataDir, 'running.json')

/** What was noted last about a data folder, whether it lives or not. @param {string} dataDir */
export const readRunning = (dataDir) => readClaim(fileOf(dataDir))

/** @param {string} file @returns {Running | null} */
function readClaim(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return null
  }
}

/**
 * Takes a data folder for this process, making it if it is missing. A claim of a process that has died counts for nothing,
 * whatever process has its number now.
 *
 * @param {string} dataDir
 * @returns {Claim} `left` is what a killed start left noted.
 * @throws Error that says who has the folder, or why it can't be written, and what to do.
 */
export function claimFolder(dataDir) {
  const file = fileOf(dataDir)
  /** @type {Running} */
  let mine = { starter: being() }
  /** @type {Running | null} */
  let left = null
  const fresh = `${file}.${process.pid}`
  /** @param {string} to */
  const write = (to) => writeFileSync(to, JSON.stringify(mine), { mode: 0o600 })
  explained(dataDir, () => {
    mkdirSync(dataDir, { recursive: true })
    write(fresh)
  })
  try {
    while (!linked(fresh, file)) {
      const holder = readRunning(dataDir)
      if (holder && isAlive(holder.starter)) throw new Error(alreadyRunning(dataDir, holder))
      left = holder
      takeAway(file)
    }
  } finally {
    rmSync(fresh, { force: true })
  }
  return {
    left,
    note(facts) {
      mine = { ...mine, ...facts }
      try {
        write(fresh)
        renameSync(fresh, file)
      } catch (error) {
        // Only a remark for the next start: a disk that is full must not end what is running.
        console.error(`${file} could not be written: ${error instanceof Error ? error.message : error}`)
      }
    },
    release: () => rmSync(file, { force: true }),
  }
}

/** @param {string} dataDir @param {Running} holder */
const alreadyRunning = (dataDir, { starter, url }) =>
  `Yodel is already ${url ? `running at ${url}` : 'starting'}, on the data folder ${dataDir} (process ${starter.pid}). ` +
  'Open it there, or stop it first; to run a second one, give it a folder and a port of its own: ' +
  'YODEL_DATA_DIR=/another/folder YODEL_PORT=4760 npm start'

/** A link is made by one of those who try at once, never by two. @param {string} from @param {string} to */
function linked(from, to) {
  try {
    linkSync(from, to)
    return true
  } catch (error) {
    if (/** @type {NodeJS.ErrnoException} */ (error).code === 'EEXIST') return false
    throw error
  }
}

/** Takes a dead claim away, unless another start was quicker and the file is its claim by now. @param {string} file */
function takeAway(file) {
  const aside = `${file}.dead-${process.pid}`
  try {
    renameSync(file, aside)
  } catch {
    return
  }
  if (isAlive(readClaim(aside)?.starter)) linked(aside, file)
  rmSync(aside, { force: true })
}

/** Runs what writes into a data folder; a failure says what to do. @param {string} dataDir @param {() => void} act */
function explained(dataDir, act) {
  try {
    act()
  } catch (error) {
    const { code } = /** @type {NodeJS.ErrnoException} */ (error)
    const why =
      code === 'ENOSPC' || code === 'EDQUOT'
        ? 'its disk is full; free some space'
        : code === 'EACCES' || code === 'EPERM' || code === 'EROFS'
          ? 'this user may not write there; give it the folder'
          : code === 'ENOTDIR' || code === 'EEXIST'
            ? 'there is a file where the folder should be; move the file'
            : `${code ?? error}`
    throw new Error(
      `Yodel can't write into its data folder ${dataDir}: ${why}, or name another one with YODEL_DATA_DIR.`,
      { cause: error },
    )
  }
}
