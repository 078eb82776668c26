// @ts-check
// npm run dev: the server from its sources, and Vite with hot reload in front of it.
import { spawn } from 'node:child_process'
import path from 'node:path'
import { installDependencies, ROOT } from './lib/build.mjs'
import { claimFolder } from './lib/claim.mjs'
import { startCluster } from './lib/cluster.mjs'
import { needPackages } from './lib/packages.mjs'
import { dataFolder } from './lib/say.mjs'

const dataDir = dataFolder()
const claim = claimFolder(dataDir)
process.on('exit', claim.release)
needPackages(['ffmpeg', 'postgresql'])
installDependencies()
const given = process.env.YODEL_DATABASE_URL
const cluster = given ? null : await startCluster(dataDir)
const env = { ...process.env, YODEL_DATA_DIR: dataDir, YODEL_DATABASE_URL: given || cluster?.url }
const watched = ['--watch-path=apps/server/src', '--watch-path=packages/core/src']
const server = [...watched, '--conditions=development', '--import', 'tsx', 'apps/server/src/main.ts']
const children = [
  spawn(process.execPath, server, { cwd: ROOT, stdio: 'inherit', env }),
  spawn(path.join(ROOT, 'node_modules/.bin/vite'), [], {
    cwd: path.join(ROOT, 'apps/web'),
    stdio: 'inherit',
    env,
  }),
]
const stop = async () => {
  for (const child of children) child.kill()
  await cluster?.stop()
  process.exit(0)
}
for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM'])) process.on(signal, () => void stop())
