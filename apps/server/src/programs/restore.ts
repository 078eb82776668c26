import { readManifest, restoreBackup } from '../backup/restoreBackup.js'
import { readSettings } from '../settings.js'
import { runProgramOf } from './program.js'

/** npm run restore -- FILE, once there is an empty database. */
runProgramOf(async ([file = '']) => {
  const { databaseUrl, dataDir } = readSettings(process.env)
  const manifest = await readManifest(file)
  const { reels } = await restoreBackup(manifest, { databaseUrl, dataDir, file })
  console.log(
    `Restored ${reels} reels as they were on ${manifest.made}, into ${dataDir}; rows and logs agree.`,
  )
  console.log('Pictures are prepared again at the next npm start.')
})
