// @ts-check
// The database of a data folder for a program beside the server: the one that runs, or one started for it.
import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { build, installDependencies, ROOT } from './build.mjs'
import { claimFolder, readRunning } from './claim.mjs'
import { runningUrl, startCluster } from './cluster.mjs'
import { needPackages, postgresBin } from './packages.mjs'
import { isAlive } from './processes.mjs'
import { dataFolder, giveUp, reasonOf } from './say.mjs'

/**
 * Runs one of the server's programs on the database of the data folder, and ends with its exit code.
 *
 * @param {string} program - "backup", "restore", "verify"
 * @param {string[]} args
 * @param {{ alone?: boolean }} [options] `alone`: only where no Yodel runs.
 */
export async function runOnDatabase(program, args, { alone = false } = {}) {
  try {
    needPackages(['ffmpeg', 'postgresql'])
    installDependencies()
    build()
    const dataDir = dataFolder()
    const given = process.env.YODEL_DATABASE_URL
    const running = !alone && isAlive(readRunning(dataDir)?.starter)
    const claim = running ? null : claimFolder(dataDir)
    const cluster = running || given ? null : await startCluster(dataDir)
    const url = given || cluster?.url || runningUrl(dataDir)
    if (!url) throw new Error(`Yodel is just starting on ${dataDir}; try again when it has said its address.`)
    const env = {
      ...process.env,
      YODEL_DATA_DIR: dataDir,
      YODEL_DATABASE_URL: url,
      YODEL_PG_BIN: postgresBin() ?? '',
    }
    const ran = spawnSync(
      process.execPath,
      [path.join(ROOT, `apps/server/dist/programs/${program}.js`), ...args],
      {
        stdio: 'inherit',
        env,
      },
    )
    await cluster?.stop()
    claim?.release()
    return ran.status ?? 1
  } catch (error) {
    return giveUp(reasonOf(error))
  }
}
