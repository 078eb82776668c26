// @ts-check
// npm run check: types, lint and format of the whole tree.
import path from 'node:path'
import { installDependencies, ROOT } from './lib/build.mjs'
import { run } from './lib/say.mjs'

installDependencies()
const bin = (/** @type {string} */ name) => path.join(ROOT, 'node_modules/.bin', name)
const steps = /** @type {[string, string[]][]} */ ([
  ['tsc', ['-b', 'apps/server']],
  ...['apps/web', 'e2e', 'bench', 'tools', 'tsconfig.tests.json'].map((place) => ['tsc', ['-p', place]]),
  ['eslint', ['.']],
  ['prettier', ['--check', '--log-level', 'warn', '.']],
])
const failed = steps.filter(([name, args]) => !run(bin(name), args, { cwd: ROOT }))
console.log(
  failed.length === 0
    ? 'Types, lint and format are in order.'
    : `Not in order: ${failed.map(([name, args]) => `${name} ${args.at(-1)}`).join(', ')}`,
)
process.exit(failed.length === 0 ? 0 : 1)
