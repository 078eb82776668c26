// @ts-check
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { giveUp, run } from './say.mjs'

/** The top of the checkout. */
export const ROOT = fileURLToPath(new URL('../..', import.meta.url))

const bin = (/** @type {string} */ name) => path.join(ROOT, 'node_modules/.bin', name)

/** Remembers what a step was last done for. @param {string} name */
const stamp = (name) => path.join(ROOT, 'node_modules', `.yodel-${name}`)

/** @param {string} name @param {string} now @param {() => void} act */
function onceFor(name, now, act) {
  if (existsSync(stamp(name)) && readFileSync(stamp(name), 'utf8') === now) return
  act()
  mkdirSync(path.dirname(stamp(name)), { recursive: true })
  writeFileSync(stamp(name), now)
}

/** Installs what the lock file says, if it has changed since the last time. */
export function installDependencies() {
  const lock = createHash('sha256')
    .update(readFileSync(path.join(ROOT, 'package-lock.json')))
    .digest('hex')
  onceFor('installed', lock, () => {
    console.log('Installing dependencies ...')
    if (!run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: ROOT }))
      giveUp('npm ci failed; see above. It needs the npm registry once.')
  })
}

/** Builds core, demo, server and web, unless the sources are those of the last build. */
export function build() {
  const now = fingerprint([
    'packages/core',
    'demo',
    'apps/server',
    'apps/web',
    // The guide is part of the page.
    'docs',
    'tsconfig.base.json',
    'package-lock.json',
  ])
  if (!isBuilt()) rmSync(stamp('built'), { force: true })
  onceFor('built', now, () => {
    console.log('Building ...')
    if (!run(bin('tsc'), ['-b', ...(isBuilt() ? [] : ['--force']), 'apps/server'], { cwd: ROOT }))
      giveUp('The server does not compile; see above.')
    // Whatever this was started from: a page built for tests does not come up.
    const env = { ...process.env, NODE_ENV: 'production' }
    if (!run(bin('vite'), ['build', '--logLevel', 'warn'], { cwd: path.join(ROOT, 'apps/web'), env }))
      giveUp('The web application does not build; see above.')
  })
}

/** @param {string[]} places */
function fingerprint(places) {
  const hash = createHash('sha256')
  const visit = (/** @type {string} */ place) => {
    const info = statSync(place)
    if (!info.isDirectory()) return void hash.update(`${place}:${info.size}:${info.mtimeMs};`)
    for (const name of readdirSync(place).sort())
      if (!['node_modules', 'dist'].includes(name) && !name.endsWith('.tsbuildinfo'))
        visit(path.join(place, name))
  }
  for (const place of places) visit(path.join(ROOT, place))
  return hash.digest('hex')
}

/** Says whether every part's result is there. */
function isBuilt() {
  return [
    'apps/server/dist/main.js',
    'apps/web/dist/index.html',
    'packages/core/dist/index.js',
    'demo/dist/index.js',
  ].every((file) => existsSync(path.join(ROOT, file)))
}
