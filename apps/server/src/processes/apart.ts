import { spawn, type ChildProcess } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import { AppError, reasonOf } from '../errors.js'
import { dieWithUs } from './dieWithUs.js'
import { Line } from './Line.js'

/** What one piece of work may take, and what it is called in a refusal. */
export interface Limits {
  readonly seconds: number
  readonly what: string
  /** What a process may take until it begins, in seconds; one that takes longer never will: it is ended, another one asked. */
  readonly beginSeconds?: number
}

/** What comes back from the other process: that it has the function and begins, then what came of it. */
export type Outcome = { readonly begun: true } | { readonly answer: unknown } | { readonly error: string }

const source = import.meta.url.endsWith('.ts')
const CHILD = fileURLToPath(new URL(`./apartChild${source ? '.ts' : '.js'}`, import.meta.url))
/** What the heap of a process may grow to. */
const MEMORY_MB = 768
/** As many work at once; the others wait their turn. */
const line = new Line(3)
/** A process that has had nothing to do for so long ends. */
const IDLE_MS = 5000

/** Those that have nothing to do, each with the timer that ends it. */
const idle = new Map<ChildProcess, NodeJS.Timeout>()

/**
 * Has a process of its own run one module's default function. A thread would not do: one whose memory runs out can end
 * the whole process with it.
 *
 * @param module - Path from the server's sources, without ending.
 * @throws AppError `TOO_MUCH` when it takes more time or memory than it may; what the function throws, as a plain Error
 */
export async function runApart<Answer>(module: string, order: unknown, limits: Limits): Promise<Answer> {
  const work = (child: ChildProcess) => workWith(child, { module, order }, limits)
  const workAgain = (error: unknown) => {
    if (error instanceof NeverBegun) return work(startChild())
    throw error
  }
  return (await line.run(null, () => work(takeIdle() ?? startChild()).catch(workAgain))) as Answer
}

/** A process did not come as far as its work. */
class NeverBegun extends Error {}

function startChild(): ChildProcess {
  const flags = [`--max-old-space-size=${MEMORY_MB}`]
  if (source) flags.push('--conditions=development', '--import', 'tsx')
  const child = spawn(...dieWithUs(process.execPath, [...flags, CHILD]), {
    stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
    serialization: 'advanced',
  })
  // One that waits for work must not keep this process from ending.
  child.unref()
  child.channel?.unref()
  child.once('close', () => forget(child))
  // Whoever works with it is told by its own listener; without one here an error would end this process.
  child.on('error', () => forget(child))
  return child
}

function workWith(child: ChildProcess, work: unknown, limits: Limits): Promise<unknown> {
  const { seconds, what, beginSeconds = 30 } = limits
  return new Promise((resolve, reject) => {
    let said = ''
    const tooMuch = (found: string): void =>
      reject(new AppError('TOO_MUCH', `${what} would take ${found}; make it smaller.`))
    const endIn = (time: number, tell: () => void): NodeJS.Timeout =>
      setTimeout(() => {
        tell()
        child.kill('SIGKILL')
      }, time * 1000)
    const neverBegun = (): void =>
      reject(new NeverBegun(`${what} was not begun within ${beginSeconds} s; try again.`))
    let timer = endIn(beginSeconds, neverBegun)
    const listen = (piece: Buffer): void => {
      said = (said + piece.toString()).slice(-20_000)
    }
    const onEnd = (code: number | null, signal: string | null): void => {
      clearTimeout(timer)
      if (/heap out of memory|allocation failed/i.test(said)) tooMuch('more memory than it may')
      else reject(new Error(`${what} broke off (${signal ?? `code ${code}`}): ${said.slice(-500)}`))
    }
    // It could not be started, or what it should do did not reach it.
    const onError = (error: Error): void => {
      clearTimeout(timer)
      child.kill('SIGKILL')
      reject(new Error(`${what} could not be begun: ${reasonOf(error)}`))
    }
    child.stderr?.on('data', listen)
    child.on('close', onEnd)
    child.on('error', onError)
    child.on('message', function hear(outcome: Outcome) {
      clearTimeout(timer)
      if ('begun' in outcome) {
        timer = endIn(seconds, () => tooMuch(`longer than ${seconds} s`))
        return
      }
      child.off('message', hear)
      child.off('close', onEnd)
      child.off('error', onError)
      child.stderr?.off('data', listen)
      rest(child)
      if ('error' in outcome) reject(new Error(outcome.error))
      else resolve(outcome.answer)
    })
    child.send(work as object, (error) => error && onError(error))
  })
}

/** Keeps a process for the next piece of work, for a while. */
function rest(child: ChildProcess): void {
  const end = (): void => {
    forget(child)
    child.kill()
  }
  idle.set(child, setTimeout(end, IDLE_MS).unref())
}

function takeIdle(): ChildProcess | undefined {
  const child = idle.keys().next().value
  if (child) forget(child)
  return child
}

function forget(child: ChildProcess): void {
  clearTimeout(idle.get(child))
  idle.delete(child)
}
