// @ts-check
// Keeps the server running: whoever starts it starts it again when it dies, and ends it when it ends itself.
import { spawn } from 'node:child_process'
import path from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { ROOT } from './build.mjs'
import { being, isAlive } from './processes.mjs'

/** The server ends with this when starting it again would not help; it has said why. */
export const CANT_START = 78
/** A server that dies sooner than this is started again after a pause, longer each time up to the last. */
const RAN_MS = 10_000
const PAUSES_MS = [0, 100, 200, 500, 1000]
/** As often as this one may die before it has ever answered. */
const TRIES = 5

/** @typedef {{ ended: Promise<number>, stop: (signal: NodeJS.Signals) => void }} Serving */

/**
 * Runs the built server until it is stopped, starting it again whenever it dies.
 *
 * @param {NodeJS.ProcessEnv} env
 * @param {(facts: { server: import('./processes.mjs').Being, url?: string }) => void} note - Told which process it is, and its address once it answers.
 * @returns {Serving} `ended` is the exit code for this process.
 */
export function serve(env, note) {
  /** @type {import('node:child_process').ChildProcess} */
  let child
  let port = env.YODEL_PORT
  let stopping = false
  const life = async () => {
    let short = 0
    let silent = 0
    while (!stopping) {
      const begun = Date.now()
      silent++
      child = spawn(process.execPath, [path.join(ROOT, 'apps/server/dist/main.js')], {
        // Its own group, so that Ctrl C reaches it once, through this process; a channel, so that it ends with this process.
        detached: true,
        stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
        env: { ...env, YODEL_PORT: port },
      })
      const server = being(child.pid)
      note({ server })
      child.on('message', (/** @type {{ url?: string }} */ { url }) => {
        if (!url) return
        silent = 0
        port = new URL(url).port
        note({ server, url })
      })
      const [code, signal] = await new Promise((resolve) => child.once('exit', (...how) => resolve(how)))
      if (stopping || code === CANT_START) return stopping ? 0 : 1
      if (silent === TRIES) {
        console.error(`Yodel’s server ended ${TRIES} times in a row before it answered; see above.`)
        return 1
      }
      console.error(`Yodel’s server ended (${signal ?? `code ${code}`}); it is started again.`)
      short = Date.now() - begun < RAN_MS ? short + 1 : 0
      await wait(PAUSES_MS[Math.min(short, PAUSES_MS.length - 1)])
    }
    return 0
  }
  return {
    ended: life(),
    stop(signal) {
      stopping = true
      child.kill(signal)
    },
  }
}

/** Waits for a server that a killed start has left running: it ends by itself. @param {import('./claim.mjs').Running | null} left */
export async function outlive(left) {
  if (!left?.server || !isAlive(left.server)) return
  console.log(`A server of a start that was killed is still ending (process ${left.server.pid}).`)
  for (const until = Date.now() + 20_000; isAlive(left.server); await wait(50))
    if (Date.now() > until)
      throw new Error(
        `It does not end${left.url ? `, and still answers at ${left.url}` : ''}. End it, then start again:  kill ${left.server.pid}`,
      )
}
