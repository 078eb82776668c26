import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { createServer } from 'node:http'
import { chmodSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { lives, npmStart, postmasterFile, type Started } from './support/npmStart.js'

/** A small disk of its own can be made by root only, and not in every container. */
const mayMount =
  spawnSync('sh', ['-c', 'd=$(mktemp -d) && mount -t tmpfs tmpfs "$d" && umount "$d" && rmdir "$d"'])
    .status === 0
let dataDir = ''
let running: Started[] = []
const start = (env?: NodeJS.ProcessEnv): Started => {
  const started = npmStart(dataDir, env)
  running.push(started)
  return started
}
beforeEach(() => {
  dataDir = mkdtempSync(path.join(tmpdir(), 'yodel-start-'))
  chmodSync(dataDir, 0o755)
})
afterEach(async () => {
  for (const one of running) await one.stop('SIGTERM')
  running = []
  rmSync(dataDir, { recursive: true, force: true })
})

const facts = { showId: null, showName: 'Kept', rate: '24', firstTimecode: '01:00:00:00', lengthSeconds: 60 }
async function makeReel(url: string, name: string): Promise<void> {
  const headers = { 'content-type': 'application/json' }
  const answer = await fetch(`${url}/api/reels`, {
    method: 'POST',
    headers,
    body: JSON.stringify({ ...facts, name }),
  })
  expect(answer.status).toBe(201)
}
async function reels(url: string): Promise<string[]> {
  const shows = (await (await fetch(`${url}/api/shows`)).json()) as { reels: { reel: { name: string } }[] }[]
  return shows.flatMap((show) => show.reels.map(({ reel }) => reel.name))
}
const back = (url: string, names: string[]) =>
  vi.waitFor(async () => expect(await reels(url)).toEqual(names), { timeout: 20_000, interval: 50 })
const gone = (pid: number) =>
  vi.waitFor(() => expect(lives(pid)).toBe(false), { timeout: 20_000, interval: 20 })

describe('npm start', () => {
  it('keeps the database of a folder whose secret is gone, and gives it a new one', async () => {
    const first = start()
    await makeReel(await first.url(), 'One')
    // Killed, so that its own file still names a process, and that number is somebody else's by now.
    const file = postmasterFile(dataDir)
    const noted = readFileSync(file, 'utf8')
    await first.stop('SIGKILL')
    rmSync(path.join(dataDir, 'postgres.json'))
    await gone(Number(noted.split('\n')[0]))
    writeFileSync(file, noted.replace(/^\d+/, String(process.pid)))
    const second = start()
    await back(await second.url(), ['One'])
    expect(second.said()).toContain('it gets a new one')
  })

  it('says where Yodel runs already, and leaves it alone', async () => {
    const first = start()
    const url = await first.url()
    await makeReel(url, 'One')
    const second = start()
    expect(await second.ended).toBe(1)
    expect(second.said().trim()).toMatch(
      new RegExp(`^Yodel is already running at ${url}, on the data folder`),
    )
    expect(await reels(url)).toEqual(['One'])
  })

  it('starts its server again when that dies, and PostgreSQL, and stops all it started', async () => {
    const yodel = start()
    const url = await yodel.url()
    await makeReel(url, 'One')
    const [server, postgres] = [yodel.serverPid(), yodel.postgresPid()]
    process.kill(server, 'SIGKILL')
    await gone(server)
    await back(url, ['One'])
    process.kill(postgres, 'SIGKILL')
    await gone(postgres)
    await back(url, ['One'])
    expect(yodel.said()).toContain('server ended (SIGKILL); it is started again')
    expect(yodel.said()).toContain('PostgreSQL ended; it is started again')
    const now = [yodel.serverPid(), yodel.postgresPid()]
    expect(await yodel.stop()).toBe(0)
    expect(now.map(lives)).toEqual([false, false])
  })

  it('leaves nothing running when it is killed, and starts again at once', async () => {
    const first = start()
    await makeReel(await first.url(), 'One')
    const parts = [first.serverPid(), first.postgresPid()]
    await first.stop('SIGKILL')
    await back(await start().url(), ['One'])
    expect(parts.map(lives)).toEqual([false, false])
  })

  it('starts after everything was killed at once, whoever has PostgreSQL’s number now, and signals nobody else', async () => {
    const first = start()
    await makeReel(await first.url(), 'One')
    const file = postmasterFile(dataDir)
    const noted = readFileSync(file, 'utf8')
    for (const pid of [first.pid, first.serverPid(), first.postgresPid()]) process.kill(pid, 'SIGKILL')
    await first.ended
    const stranger = spawn('sleep', ['60'])
    writeFileSync(file, noted.replace(/^\d+/, String(stranger.pid)))
    await back(await start().url(), ['One'])
    expect(lives(stranger.pid ?? 0)).toBe(true)
    stranger.kill()
  })

  it('says that its port is taken, and ends with all it started', async () => {
    const other = createServer().listen(0, '127.0.0.1')
    await new Promise((resolve) => other.once('listening', resolve))
    const { port } = other.address() as AddressInfo
    const yodel = start({ YODEL_PORT: String(port) })
    expect(await yodel.ended).toBe(1)
    expect(yodel.said()).toContain(`Port ${port} is in use.`)
    expect(() => readFileSync(postmasterFile(dataDir))).toThrow('ENOENT')
    other.close()
  })

  it.runIf(mayMount)('says in a sentence that the disk is full, wherever that shows', async () => {
    for (const size of ['4k', '2M', '48M']) {
      execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${size},mode=755`, 'tmpfs', dataDir])
      try {
        const yodel = npmStart(path.join(dataDir, 'data'), { YODEL_DEMO: '1' })
        expect(await yodel.ended).toBe(1)
        const lines = yodel.said().trim().split('\n')
        expect(lines.at(-1)).toMatch(/^(The disk is full, so|Yodel can't write .* its disk is full;)/)
      } finally {
        execFileSync('umount', [dataDir])
      }
    }
  })

  it('says in a sentence why it can’t use its data folder', async () => {
    writeFileSync(path.join(dataDir, 'file'), '')
    const yodel = npmStart(path.join(dataDir, 'file'))
    expect(await yodel.ended).toBe(1)
    expect(yodel.said().trim().split('\n')).toEqual([
      expect.stringMatching(
        /^Yodel can't write into its data folder .*: there is a file where the folder should be/,
      ),
    ])
  })
})
