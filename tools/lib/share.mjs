// @ts-check
import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { ROOT } from './build.mjs'

/** Tests themselves, what drives a browser for them, and what only they use. */
const TEST = /\.(test|spec)\.tsx?$|^e2e\/|\/test\//

/** What part of the non-blank lines of code are tests. @returns {{ tests: number, all: number } | null} Null outside of a checkout. */
export function testShare() {
  /** @type {string[]} */
  let files
  try {
    const listed = execFileSync('git', ['ls-files', '-co', '--exclude-standard', '*.ts', '*.tsx', '*.mjs'], {
      cwd: ROOT,
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
    })
    files = listed.split('\n').filter((file) => file !== '' && existsSync(path.join(ROOT, file)))
  } catch {
    return null
  }
  const share = { tests: 0, all: 0 }
  for (const file of files) {
    const lines = readFileSync(path.join(ROOT, file), 'utf8')
      .split('\n')
      .filter((line) => line.trim() !== '')
    share.all += lines.length
    if (TEST.test(file)) share.tests += lines.length
  }
  return share
}
