// @ts-check
// npm run backup -- FILE: everything that can't be made again, in one file; Yodel may be running meanwhile.
import { mkdirSync } from 'node:fs'
import path from 'node:path'
import { runOnDatabase } from './lib/database.mjs'
import { giveUp } from './lib/say.mjs'

const [file] = process.argv.slice(2)
if (!file) giveUp('Say where the backup should go:  npm run backup -- /another/disk/yodel.tar')
const target = path.resolve(file)
mkdirSync(path.dirname(target), { recursive: true })
process.exit(await runOnDatabase('backup', [target]))
