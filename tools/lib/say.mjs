// @ts-check
import { spawnSync } from 'node:child_process'

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

/** Says whether this process is root. */
export const isRoot = () => process.getuid?.() === 0
