// @ts-check
// npm test: sets everything up, then runs every test on a throw-away cluster.
import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { build, installDependencies, ROOT } from './lib/build.mjs'
import { throwAwayCluster } from './lib/cluster.mjs'
import { needPackages } from './lib/packages.mjs'
import { testShare } from './lib/share.mjs'

needPackages(['ffmpeg', 'postgresql', 'chromium', 'poppler', 'sox', 'mediainfo', 'fonts', 'voices'])
installDependencies()
build()

const given = process.env.YODEL_DATABASE_URL
const cluster = given ? null : await throwAwayCluster()
const report = path.join(mkdtempSync(path.join(tmpdir(), 'yodel-report-')), 'report.json')
const args = [
  'vitest',
  'run',
  '--reporter=dot',
  '--reporter=json',
  `--outputFile.json=${report}`,
  ...process.argv.slice(2),
]
const ran = spawnSync(
  process.execPath,
  [path.join(ROOT, 'node_modules/vitest/vitest.mjs'), ...args.slice(1)],
  {
    cwd: ROOT,
    stdio: 'inherit',
    env: {
      ...process.env,
      YODEL_TEST_DATABASE_URL: given ?? cluster?.url,
      YODEL_TEST_SHARED: path.dirname(report),
    },
  },
)
await cluster?.stop()
const counts = existsSync(report)
  ? JSON.parse(readFileSync(report, 'utf8'))
  : { numPassedTests: 0, numFailedTests: 0 }
// A file that fails before its first test counts as a failure, too.
const broken = (counts.testResults ?? []).filter(
  (/** @type {any} */ file) =>
    file.status === 'failed' &&
    file.assertionResults.every((/** @type {any} */ test) => test.status !== 'failed'),
).length
const failed = counts.numFailedTests + broken
const share = testShare()
if (share) {
  const percent = ((100 * share.tests) / share.all).toFixed(1)
  console.log(`Tests are ${share.tests} of ${share.all} lines: ${percent} %`)
}
console.log(`${counts.numPassedTests} passed, ${failed} failed`)
process.exit(ran.status === 0 && failed === 0 && counts.numPassedTests > 0 ? 0 : 1)
