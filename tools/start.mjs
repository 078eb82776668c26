// @ts-check
// npm start: sets everything up, then serves Yodel with its demo.
import { spawn } from 'node:child_process'
import path from 'node:path'
import { build, installDependencies, ROOT } from './lib/build.mjs'
import { startCluster } from './lib/cluster.mjs'
import { needPackages } from './lib/packages.mjs'

needPackages(['ffmpeg', 'postgresql'])
installDependencies()
build()

const dataDir = path.resolve(process.env.YODEL_DATA_DIR || path.join(ROOT, '.yodel'))
const cluster = process.env.YODEL_DATABASE_URL ? null : await startCluster(dataDir)
const env = {
  ...process.env,
  YODEL_DATA_DIR: dataDir,
  YODEL_DATABASE_URL: process.env.YODEL_DATABASE_URL || cluster?.url,
}
const server = spawn(process.execPath, [path.join(ROOT, 'apps/server/dist/main.js')], {
  stdio: 'inherit',
  env,
})
for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM']))
  process.on(signal, () => server.kill(signal))
server.on('close', (code) => {
  cluster?.stop()
  process.exit(code ?? 1)
})
