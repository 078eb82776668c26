// @ts-check
// npm run dev: the server from its sources, and Vite with hot reload in front of it.
import { spawn } from 'node:child_process'
import path from 'node:path'
import { installDependencies, ROOT } from './lib/build.mjs'
import { startCluster } from './lib/cluster.mjs'
import { needPackages } from './lib/packages.mjs'

needPackages(['ffmpeg', 'postgresql'])
installDependencies()
const dataDir = path.resolve(process.env.YODEL_DATA_DIR || path.join(ROOT, '.yodel'))
const cluster = process.env.YODEL_DATABASE_URL ? null : await startCluster(dataDir)
const env = {
  ...process.env,
  YODEL_DATA_DIR: dataDir,
  YODEL_DATABASE_URL: process.env.YODEL_DATABASE_URL || cluster?.url,
}
const children = [
  spawn(
    process.execPath,
    [
      '--watch-path=apps/server/src',
      '--watch-path=packages/core/src',
      '--conditions=development',
      '--import',
      'tsx',
      'apps/server/src/main.ts',
    ],
    {
      cwd: ROOT,
      stdio: 'inherit',
      env,
    },
  ),
  spawn(path.join(ROOT, 'node_modules/.bin/vite'), [], {
    cwd: path.join(ROOT, 'apps/web'),
    stdio: 'inherit',
    env,
  }),
]
const stop = () => {
  for (const child of children) child.kill()
  cluster?.stop()
  process.exit(0)
}
for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM'])) process.on(signal, stop)
