import { openDatabase } from '../db/dataSource.js'
import { verifyAll } from '../reels/verify.js'
import { readSettings } from '../settings.js'
import { runProgramOf } from './program.js'

/** npm run verify, once the database is there. */
runProgramOf(async () => {
  const db = await openDatabase(readSettings(process.env).databaseUrl)
  try {
    const { reels, differ } = await verifyAll(db, (line) => console.log(line))
    if (differ > 0)
      throw new Error(`${differ} of ${reels} reels differ from their logs. The log is the truth.`)
    console.log(`The rows of ${reels} reels are what their logs say.`)
  } finally {
    await db.destroy()
  }
})
