// @ts-check
// npm start: sets everything up, then serves Yodel with its demo.
import { build, installDependencies } from './lib/build.mjs'
import { claimFolder } from './lib/claim.mjs'
import { startCluster } from './lib/cluster.mjs'
import { dataFolder, giveUp, reasonOf } from './lib/say.mjs'
import { needPackages, wishPackages } from './lib/packages.mjs'
import { outlive, serve } from './lib/serve.mjs'

try {
  const dataDir = dataFolder()
  const claim = claimFolder(dataDir)
  process.on('exit', claim.release)
  needPackages(['ffmpeg', 'postgresql'])
  wishPackages(['fonts', 'voices'])
  installDependencies()
  build()
  await outlive(claim.left)
  const given = process.env.YODEL_DATABASE_URL
  const cluster = given ? null : await startCluster(dataDir)
  const env = { ...process.env, YODEL_DATA_DIR: dataDir, YODEL_DATABASE_URL: given || cluster?.url }
  const server = serve(env, claim.note)
  for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM', 'SIGHUP']))
    process.on(signal, () => server.stop('SIGTERM'))
  const code = await server.ended
  await cluster?.stop()
  process.exit(code)
} catch (error) {
  giveUp(reasonOf(error))
}
