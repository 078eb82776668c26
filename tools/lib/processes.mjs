// @ts-check
// Who a process is: numbers are given out anew, so a number alone says nothing.
import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync, readlinkSync, realpathSync } from 'node:fs'

/** A process, told from a later one with the same number by when it was started. @typedef {{ pid: number, stamp: string }} Being */

/** When the process of a number was started, in words that no other process of that number has; null where there is none. @param {number} pid */
export function stampOf(pid) {
  try {
    // The fields after the name in brackets; the twentieth of them is the start, in ticks since the machine's.
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
    if (fields[0] === 'Z' || fields[0] === 'X') return null
    return `${readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim()} ${fields[19]}`
  } catch {
    return process.platform === 'linux' ? null : stampByPs(pid)
  }
}

/** @param {number} pid */
function stampByPs(pid) {
  try {
    return execFileSync('ps', ['-o', 'lstart=', '-p', String(pid)], { encoding: 'utf8' }).trim() || null
  } catch {
    return null
  }
}

/** This process, or another. @param {number} [pid] @returns {Being} */
export const being = (pid = process.pid) => ({ pid, stamp: stampOf(pid) ?? '' })

/** Says whether a process still lives, and not another one under its number. @param {Being | null | undefined} who */
export const isAlive = (who) => Boolean(who && who.stamp !== '' && stampOf(who.pid) === who.stamp)

/** Says whether a process works in a folder, as every process of PostgreSQL does in its data; elsewhere than on Linux, whether it was started on it. @param {number} pid @param {string} folder */
export function worksIn(pid, folder) {
  try {
    if (process.platform !== 'linux')
      return execFileSync('ps', ['-o', 'command=', '-p', String(pid)], { encoding: 'utf8' }).includes(folder)
    return readlinkSync(`/proc/${pid}/cwd`) === realpathSync(folder)
  } catch {
    return false
  }
}

/** The processes that work in a folder; none where this system does not tell. @param {string} folder */
export function workersIn(folder) {
  if (process.platform !== 'linux') return []
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name) && worksIn(Number(name), folder))
    .map(Number)
}
