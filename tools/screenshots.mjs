// @ts-check
// npm run screenshots [-- NAME ...]: one picture of each main view from the demo, or of some, into docs/screenshots.
import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { build, installDependencies, ROOT } from './lib/build.mjs'
import { throwAwayCluster } from './lib/cluster.mjs'
import { needPackages } from './lib/packages.mjs'

needPackages(['ffmpeg', 'postgresql', 'chromium', 'voices'])
installDependencies()
build()
const cluster = await throwAwayCluster()
const ran = spawnSync(
  process.execPath,
  [
    '--conditions=development',
    '--import',
    'tsx',
    path.join(ROOT, 'e2e/support/screenshots.ts'),
    ...process.argv.slice(2),
  ],
  {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, YODEL_TEST_DATABASE_URL: cluster.url },
  },
)
await cluster.stop()
process.exit(ran.status ?? 1)
