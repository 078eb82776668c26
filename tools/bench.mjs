// @ts-check
// npm run bench -- NAME --json: measures one claim (or all) and prints one JSON object a line.
import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync } from 'node:fs'
import path from 'node:path'
import { build, installDependencies, ROOT } from './lib/build.mjs'
import { throwAwayCluster } from './lib/cluster.mjs'
import { needPackages } from './lib/packages.mjs'
import { giveUp } from './lib/say.mjs'

const folder = path.join(ROOT, 'bench/src')
const all = readdirSync(folder)
  .filter((file) => file.endsWith('.bench.ts'))
  .map((file) => file.replace('.bench.ts', ''))
const wanted = process.argv.slice(2).filter((word) => !word.startsWith('--'))
for (const name of wanted)
  if (!existsSync(path.join(folder, `${name}.bench.ts`)))
    giveUp(`There is no bench ${name}; there are ${all.join(', ')}.`)

needPackages([
  'ffmpeg',
  'postgresql',
  'chromium',
  'sox',
  'poppler',
  ...(wanted.length === 0 || wanted.some((name) => ['search-quality', 'draft'].includes(name))
    ? /** @type {const} */ (['ufoai'])
    : []),
])
installDependencies()
build()
const cluster = await throwAwayCluster()
let failed = false
for (const name of wanted.length > 0 ? wanted : all) {
  const ran = spawnSync(
    process.execPath,
    ['--conditions=development', '--import', 'tsx', path.join(folder, `${name}.bench.ts`)],
    {
      cwd: ROOT,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, YODEL_TEST_DATABASE_URL: cluster.url },
    },
  )
  failed ||= ran.status !== 0
}
await cluster.stop()
process.exit(failed ? 1 : 0)
