import { spawn } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'

const START = fileURLToPath(new URL('../../tools/start.mjs', import.meta.url))

/** Yodel as a person starts it: the program behind `npm start`, with its own PostgreSQL and server. */
export interface Started {
  readonly pid: number
  /** Everything it has said so far. */
  said(): string
  /** Waits for its address. @throws Error with what it said when it ends instead */
  url(): Promise<string>
  /** Number of the server's process, or of PostgreSQL's main one, as they are now. */
  serverPid(): number
  postgresPid(): number
  /** Asks it to stop, as Ctrl C does. @returns its exit code, and null where a signal ended it */
  stop(signal?: NodeJS.Signals): Promise<number | null>
  readonly ended: Promise<number | null>
}

/** Runs `npm start` on a data folder, without the demo. @param env - What else the environment says */
export function npmStart(dataDir: string, env: NodeJS.ProcessEnv = {}): Started {
  const child = spawn(process.execPath, [START], {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: {
      ...process.env,
      ...{ YODEL_DATA_DIR: dataDir, YODEL_DATABASE_URL: '', YODEL_PORT: '0', YODEL_DEMO: '0' },
      ...env,
    },
  })
  let said = ''
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (piece: Buffer) => {
      said += piece.toString()
    })
  const ended = new Promise<number | null>((resolve) => child.on('close', resolve))
  const end = (): void => void child.kill('SIGTERM')
  process.on('exit', end)
  void ended.then(() => process.off('exit', end))
  let over = false
  void ended.then(() => (over = true))
  return {
    pid: child.pid ?? 0,
    said: () => said,
    ended,
    async url() {
      for (;;) {
        const address = /Yodel is at (\S+)/.exec(said)?.[1]
        if (address) return address
        if (over) throw new Error(`it ended: ${said}`)
        await new Promise((resolve) => setTimeout(resolve, 20))
      }
    },
    serverPid: () =>
      (JSON.parse(readFileSync(path.join(dataDir, 'running.json'), 'utf8')) as { server: { pid: number } })
        .server.pid,
    postgresPid: () => Number(readFileSync(postmasterFile(dataDir), 'utf8').split('\n')[0]),
    stop(signal = 'SIGINT') {
      child.kill(signal)
      return ended
    },
  }
}

/** The file in which PostgreSQL notes its main process, wherever the cluster of a data folder lies. */
export function postmasterFile(dataDir: string): string {
  const inside = path.join(dataDir, 'postgres/data/postmaster.pid')
  if (existsSync(path.dirname(inside))) return inside
  throw new Error(`${dataDir} holds no cluster; the tests need a folder that the user postgres can reach`)
}

/** Says whether a process of a number lives. */
export function lives(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return !/^State:\s+Z/m.test(readFileSync(`/proc/${pid}/status`, 'utf8'))
  } catch {
    return false
  }
}
