import { access, stat } from 'node:fs/promises'
import { openDatabase } from '../db/dataSource.js'
import { makeBackup } from '../backup/makeBackup.js'
import { readSettings } from '../settings.js'
import { runProgramOf } from './program.js'

/** npm run backup -- FILE, once the database is there. */
runProgramOf(async ([file = '']) => {
  const { databaseUrl, dataDir } = readSettings(process.env)
  if (
    await access(file).then(
      () => true,
      () => false,
    )
  )
    throw new Error(`${file} is there already; give the backup another name, or move it away.`)
  const db = await openDatabase(databaseUrl)
  try {
    const { media, reels } = await makeBackup(db, { databaseUrl, dataDir, file, now: new Date() })
    const megabytes = Math.ceil((await stat(file)).size / 1e6)
    console.log(`${file} holds ${reels.length} reels and ${media.length} files of media, ${megabytes} MB.`)
    console.log('Recordings and movies outside the data folder are not in it; they stay where they are.')
  } finally {
    await db.destroy()
  }
})
