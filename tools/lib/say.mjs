// @ts-check
import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { fileURLToPath } from 'node:url'

/** Ends the program with a message that says what is missing and what to do. @param {string} message @returns {never} */
export function giveUp(message) {
  console.error(`\n${message}\n`)
  process.exit(1)
}

/** Runs a command and returns whether it succeeded. @param {string} command @param {string[]} args @param {import('node:child_process').SpawnSyncOptions} [options] */
export function run(command, args, options = {}) {
  return spawnSync(command, args, { stdio: 'inherit', ...options }).status === 0
}

/** Says whether a program is installed. @param {string} command */
export function has(command) {
  return spawnSync('sh', ['-c', `command -v "${command}"`], { stdio: 'ignore' }).status === 0
}

/** An error in one line where it was meant to be read, with its place where it was not. A full disk says so. @param {unknown} error */
export function reasonOf(error) {
  if (!(error instanceof Error)) return String(error)
  const { code } = /** @type {NodeJS.ErrnoException} */ (error)
  if (code === 'ENOSPC' || code === 'EDQUOT' || /No space left on device/.test(error.message))
    return `The disk is full, so Yodel can't start. Free some space on the disk of ${dataFolder()}, or name another folder with YODEL_DATA_DIR.`
  return error.constructor === Error ? error.message : String(error.stack)
}

/** The folder of this Yodel's data: `YODEL_DATA_DIR`, or `.yodel` in the checkout. */
export const dataFolder = () =>
  path.resolve(process.env.YODEL_DATA_DIR || fileURLToPath(new URL('../../.yodel', import.meta.url)))

/** Says whether this process is root. */
export const isRoot = () => process.getuid?.() === 0
