// @ts-check
// The files of a PostgreSQL cluster: where they lie, how they are made, and the secret that opens them.
import { spawnSync } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import {
  chmodSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import path from 'node:path'
import { postgresBin } from './packages.mjs'
import { isRoot } from './say.mjs'

/** A cluster's folder, its data inside, and the password of its user postgres. @typedef {{ folder: string, data: string, password: string }} ClusterFiles */

/** Runs a PostgreSQL program; as the user postgres where this is root, since it refuses root. @param {string} program @param {string[]} args @param {string} [input] */
export function pg(program, args, input) {
  const command = path.join(postgresBin() ?? '', program)
  const [file, rest] = isRoot() ? ['runuser', ['-u', 'postgres', '--', command, ...args]] : [command, args]
  return spawnSync(file, rest, { encoding: 'utf8', cwd: '/', input: input ?? '' })
}

/** Where the cluster of a data folder lies: inside it, or where the user postgres can reach it. @param {string} dataDir */
function clusterFolder(dataDir) {
  if (!isRoot()) return path.join(dataDir, 'postgres')
  const reachable = spawnSync('runuser', ['-u', 'postgres', '--', 'test', '-x', dataDir]).status === 0
  return reachable
    ? path.join(dataDir, 'postgres')
    : path.join('/var/lib/yodel', createHash('sha256').update(dataDir).digest('hex').slice(0, 12))
}

/** Where the cluster of a data folder lies, and its secret, without making anything; null where there is none, or one without its secret. @param {string} dataDir @returns {ClusterFiles | null} */
export function findCluster(dataDir) {
  const data = clusterData(dataDir)
  const password = secretOf(dataDir)
  return data && password ? { folder: path.dirname(data), data, password } : null
}

/** The data of a data folder's cluster, or null while there is none. @param {string} dataDir */
export function clusterData(dataDir) {
  const data = path.join(clusterFolder(dataDir), 'data')
  return existsSync(path.join(data, 'PG_VERSION')) ? data : null
}

/**
 * Finds the cluster of a data folder, or makes it on first use. A folder that holds a cluster is never removed:
 * where its secret is missing it gets a new one.
 *
 * @param {string} dataDir @param {{ durable: boolean }} options
 * @returns {ClusterFiles}
 * @throws Error that says what is in the way.
 */
export function makeCluster(dataDir, { durable }) {
  const folder = clusterFolder(dataDir)
  const data = path.join(folder, 'data')
  if (existsSync(path.join(data, 'PG_VERSION'))) {
    const password = secretOf(dataDir)
    if (password) return { folder, data, password }
    console.log(`The secret of the database, ${secretFile(dataDir)}, is missing; it gets a new one.`)
    const fresh = newSecret()
    setPassword(data, fresh)
    keepSecret(dataDir, fresh)
    return { folder, data, password: fresh }
  }
  if (existsSync(data) && readdirSync(data).length > 0)
    throw new Error(
      `${data} holds files but no PostgreSQL cluster. If it was one, put its files back; if not, move them away. Nothing was changed.`,
    )
  const password = newSecret()
  makeFolder(folder)
  initialise(folder, password, durable)
  // The secret first: a start that is killed here finds no cluster yet, and makes both anew.
  keepSecret(dataDir, password)
  renameSync(`${data}.new`, data)
  return { folder, data, password }
}

const newSecret = () => randomBytes(18).toString('hex')
/** @param {string} dataDir */
const secretFile = (dataDir) => path.join(dataDir, 'postgres.json')

/** @param {string} dataDir @returns {string | null} */
function secretOf(dataDir) {
  try {
    const { password } = JSON.parse(readFileSync(secretFile(dataDir), 'utf8'))
    return typeof password === 'string' ? password : null
  } catch {
    return null
  }
}

/** @param {string} dataDir @param {string} password */
function keepSecret(dataDir, password) {
  const file = secretFile(dataDir)
  writeFileSync(`${file}.new`, JSON.stringify({ password }))
  chmodSync(`${file}.new`, 0o600)
  renameSync(`${file}.new`, file)
}

/** @param {string} folder */
function makeFolder(folder) {
  mkdirSync(path.dirname(folder), { recursive: true })
  if (isRoot()) spawnSync('install', ['-d', '-o', 'postgres', '-g', 'postgres', '-m', '700', folder])
  else mkdirSync(folder, { recursive: true, mode: 0o700 })
}

/** Makes a cluster beside its place. @param {string} folder @param {string} password @param {boolean} durable */
function initialise(folder, password, durable) {
  const unfinished = path.join(folder, 'data.new')
  rmSync(unfinished, { recursive: true, force: true })
  const passwordFile = path.join(folder, 'password')
  writeFileSync(passwordFile, password)
  if (isRoot()) spawnSync('chown', ['postgres', passwordFile])
  const made = pg('initdb', [
    ...['-D', unfinished, '-U', 'postgres', '-A', 'scram-sha-256', `--pwfile=${passwordFile}`],
    ...['-E', 'UTF8', '--locale=C.UTF-8', ...(durable ? [] : ['-N'])],
  ])
  rmSync(passwordFile)
  if (made.status !== 0)
    throw new Error(`PostgreSQL could not make its data folder ${unfinished}:\n${made.stderr || made.error}`)
}

/** Gives a cluster that is not running another password, by PostgreSQL's single-user mode. @param {string} data @param {string} password */
function setPassword(data, password) {
  const set = pg(
    'postgres',
    ['--single', '-D', data, 'postgres'],
    `ALTER USER postgres PASSWORD '${password}'\n`,
  )
  if (set.status !== 0 || /ERROR|FATAL/.test(set.stderr))
    throw new Error(
      `The database in ${data} has lost its secret and could not be given a new one:\n${set.stderr}\n` +
        'Put postgres.json back from a backup of the data folder. Nothing was changed.',
    )
}
