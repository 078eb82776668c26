// @ts-check
// npm run restore -- FILE: a backup into an empty data folder (YODEL_DATA_DIR).
import { existsSync, readdirSync, rmSync } from 'node:fs'
import path from 'node:path'
import { runOnDatabase } from './lib/database.mjs'
import { dataFolder, giveUp } from './lib/say.mjs'

const [file] = process.argv.slice(2)
if (!file)
  giveUp('Say which backup:  YODEL_DATA_DIR=/empty/folder npm run restore -- /another/disk/yodel.tar')
const source = path.resolve(file)
if (!existsSync(source)) giveUp(`There is no file ${source}.`)
const dataDir = dataFolder()
if (existsSync(dataDir) && readdirSync(dataDir).length > 0)
  giveUp(`${dataDir} is not empty. A backup is restored into an empty folder: name one with YODEL_DATA_DIR.`)
const code = await runOnDatabase('restore', [source], { alone: true })
// What could not be restored leaves the folder as empty as it was.
if (code !== 0 && !process.env.YODEL_DATABASE_URL)
  for (const name of existsSync(dataDir) ? readdirSync(dataDir) : [])
    rmSync(path.join(dataDir, name), { recursive: true, force: true })
process.exit(code)
