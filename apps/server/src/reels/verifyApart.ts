import { openDatabase } from '../db/dataSource.js'
import { verifyAll } from './verify.js'

/** Compares every reel's rows with its log; runs in a process of its own (apart.ts), since the logs of years take a while. @returns a line for each difference */
export default async function verifyApart({ databaseUrl }: { databaseUrl: string }): Promise<string[]> {
  const db = await openDatabase(databaseUrl)
  const lines: string[] = []
  try {
    await verifyAll(db, (line) => lines.push(line))
    return lines
  } finally {
    await db.destroy()
  }
}
