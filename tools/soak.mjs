// @ts-check
// npm run soak -- NAME: minutes of harm while people work; ends with 1 when anything was lost.
import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync } from 'node:fs'
import path from 'node:path'
import { build, installDependencies, ROOT } from './lib/build.mjs'
import { needPackages } from './lib/packages.mjs'
import { giveUp } from './lib/say.mjs'

const folder = path.join(ROOT, 'bench/src/soak')
const all = readdirSync(folder).flatMap((file) =>
  file.endsWith('.soak.ts') ? [file.replace('.soak.ts', '')] : [],
)
const [name = ''] = process.argv.slice(2).filter((word) => !word.startsWith('--'))
const file = path.join(folder, `${name}.soak.ts`)
if (name === '' || !existsSync(file)) giveUp(`Say which:  npm run soak -- ${all.join(' | ')}`)
needPackages(['ffmpeg', 'postgresql'])
installDependencies()
build()
const ran = spawnSync(process.execPath, ['--conditions=development', '--import', 'tsx', file], {
  cwd: ROOT,
  stdio: 'inherit',
})
process.exit(ran.status ?? 1)
