// @ts-check
// npm run verify: compares every reel's rows with its log and says what differs.
import { runOnDatabase } from './lib/database.mjs'

process.exit(await runOnDatabase('verify', []))
