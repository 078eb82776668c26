// Kills the server, PostgreSQL, or everything at once at random moments while people work, and counts what is lost.
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import type { LoggedChange } from '@yodel/core'
import { openDatabase } from '../../../apps/server/src/db/dataSource.js'
import { verifyAll } from '../../../apps/server/src/reels/verify.js'
import { lives, npmStart, type Started } from '../../../e2e/support/npmStart.js'
import { freePort, runningUrl } from '../../../tools/lib/cluster.mjs'
import { percentile, report } from '../report.js'
import { Client } from './Client.js'

/** A part of them can be asked for, to look at one thing. */
const PART = Number(process.env['YODEL_SOAK_PART'] ?? 1)
const KILLS = { server: 100 * PART, postgres: 25 * PART, everything: 25 * PART } as const
type Kill = keyof typeof KILLS
const REELS = 4
const CLIENTS = 8
/** Anything that is not back by then has failed to start. */
const BACK_MS = 60_000

const dataDir = mkdtempSync(path.join(tmpdir(), 'yodel-soak-'))
chmodSync(dataDir, 0o755)
const port = await freePort()
const start = (): Started => npmStart(dataDir, { YODEL_PORT: String(port) })
let yodel = start()
const url = await yodel.url()

const reels: string[] = []
for (let reel = 0; reel < REELS; reel++) {
  const facts = {
    showId: null,
    showName: 'Soak',
    name: `Reel ${reel}`,
    rate: '24',
    firstTimecode: '01:00:00:00',
  }
  const answer = await fetch(`${url}/api/reels`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ ...facts, lengthSeconds: 600 }),
  })
  reels.push(((await answer.json()) as { id: string }).id)
}
const clients = Array.from({ length: CLIENTS }, (_, at) => new Client(url, reels[at % REELS] as string, at))
const works = clients.map((client) => client.work())

const order = Object.entries(KILLS)
  .flatMap(([kind, times]) => Array.from({ length: Math.ceil(times) }, () => kind as Kill))
  .map((kind) => ({ kind, at: Math.random() }))
  .sort((a, b) => a.at - b.at)
const back: Record<Kill, number[]> = { server: [], postgres: [], everything: [] }
let failed = 0
for (const [done, { kind }] of order.entries()) {
  await wait(200 + Math.random() * 1500)
  const killed = kill(kind)
  const begun = performance.now()
  if (kind === 'everything') {
    await yodel.ended
    complain()
    yodel = start()
  }
  if (await isBack(killed)) back[kind].push(performance.now() - begun)
  else {
    failed++
    console.error(`not back after ${kind}: ${yodel.said().slice(-1500)}`)
    await yodel.stop('SIGKILL')
    yodel = start()
    await yodel.url()
  }
  if (process.env['YODEL_BENCH_SAY'] && done % 10 === 9) console.error(`${done + 1} of ${order.length}`)
}
for (const client of clients) client.stop()
await Promise.all(works)

const [lost, twice, gaps] = await count()
const differ = await compare()
await yodel.stop()
complain()
rmSync(dataDir, { recursive: true, force: true })

const all = Object.values(back).flat()
const acknowledged = clients.reduce((sum, client) => sum + client.acknowledged.length, 0)
report({
  name: 'soak.acknowledged',
  value: acknowledged,
  unit: `changes of ${CLIENTS} people on ${REELS} reels`,
})
report({
  name: 'soak.lost',
  value: lost,
  unit: 'acknowledged changes that are not in the log, or at another number',
})
report({ name: 'soak.twice', value: twice, unit: 'changes that are in the log twice' })
report({ name: 'soak.gaps', value: gaps, unit: 'numbers missing in the logs' })
report({ name: 'soak.differ', value: differ, unit: 'reels whose rows are not what their log says' })
const faults = clients.flatMap((client) => client.faults)
for (const fault of new Set(faults)) console.error(fault)
report({ name: 'soak.faults', value: faults.length, unit: 'answers with an error, where “away” was meant' })
report({ name: 'soak.failed-restarts', value: failed, unit: `of ${order.length} kills` })
for (const [kind, times] of Object.entries(back))
  report({
    name: `soak.back-${kind}`,
    value: percentile(times, 0.95) / 1000,
    unit: `s, 95th of ${times.length}`,
  })
report({
  name: 'soak.back',
  value: percentile(all, 0.95) / 1000,
  unit: 's until it answers again, 95th of all',
})
process.exit(lost + twice + gaps + differ + failed + faults.length > 0 ? 1 : 0)

/** Shows what the server called its own errors. */
function complain(): void {
  for (const line of yodel.said().split('\n'))
    if (line.startsWith('{"level":50')) console.error(line.slice(0, 1500))
}

/** Kills as a power cut would. @returns the processes that are to be gone */
function kill(kind: Kill): number[] {
  const parts = {
    server: () => [yodel.serverPid()],
    postgres: () => [yodel.postgresPid()],
    everything: () => [yodel.pid, yodel.serverPid(), yodel.postgresPid()],
  }[kind]()
  for (const pid of parts) process.kill(pid, 'SIGKILL')
  return parts
}

/** Waits until what was killed is gone and the list of shows comes again, out of the database. */
async function isBack(killed: readonly number[]): Promise<boolean> {
  for (const until = performance.now() + BACK_MS; performance.now() < until; await wait(25)) {
    if (killed.some(lives)) continue
    const answer = await fetch(`${url}/api/shows`, { signal: AbortSignal.timeout(2000) }).catch(() => null)
    if (answer?.ok) return true
    await answer?.body?.cancel()
  }
  return false
}

/** Goes through the logs for what was acknowledged. */
async function count(): Promise<[lost: number, twice: number, gaps: number]> {
  let [lost, twice, gaps] = [0, 0, 0]
  for (const reel of reels) {
    const answer = await fetch(`${url}/api/reels/${reel}/changes?since=0`)
    const log = (await answer.json()) as LoggedChange[]
    const seqOf = new Map(log.map((entry) => [entry.changeId, entry.seq]))
    twice += log.length - seqOf.size
    gaps += log.filter((entry, at) => entry.seq !== at + 1).length
    for (const client of clients.filter((one) => one.reel === reel))
      lost += client.acknowledged.filter(({ changeId, seq }) => seqOf.get(changeId) !== seq).length
  }
  return [lost, twice, gaps]
}

async function compare(): Promise<number> {
  const db = await openDatabase(runningUrl(dataDir) ?? '')
  const { differ } = await verifyAll(db, (line) => console.error(line))
  await db.destroy()
  return differ
}
