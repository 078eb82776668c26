import { spawn } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import { AppError, reasonOf } from '../errors.js'
import { dieWithUs } from './dieWithUs.js'

/** What one piece of work may take, and what it is called in a refusal. */
export interface Limits {
  readonly seconds: number
  readonly memoryMb: number
  readonly what: string
}

/** What comes back from the other process. */
export type Outcome = { readonly answer: unknown } | { readonly error: string }

const source = import.meta.url.endsWith('.ts')
const CHILD = fileURLToPath(new URL(`./apartChild${source ? '.ts' : '.js'}`, import.meta.url))
/** As many run at once; the others wait. */
const AT_ONCE = 2
let running = 0
const waiting: (() => void)[] = []

/**
 * Has a process of its own run one module's default function. A thread would not do: one whose memory runs out can end
 * the whole process with it.
 *
 * @param module - Path from the server's sources, without ending.
 * @throws AppError `TOO_MUCH` when it takes more time or memory than it may; what the function throws, as a plain Error
 */
export async function runApart<Answer>(module: string, order: unknown, limits: Limits): Promise<Answer> {
  if (running >= AT_ONCE) await new Promise<void>((resolve) => waiting.push(resolve))
  running++
  try {
    return (await inProcess(module, order, limits)) as Answer
  } finally {
    running--
    waiting.shift()?.()
  }
}

function inProcess(module: string, order: unknown, { seconds, memoryMb, what }: Limits): Promise<unknown> {
  const flags = [
    `--max-old-space-size=${memoryMb}`,
    ...(source ? ['--conditions=development', '--import', 'tsx'] : []),
  ]
  const child = spawn(...dieWithUs(process.execPath, [...flags, CHILD]), {
    stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
    serialization: 'advanced',
  })
  return new Promise((resolve, reject) => {
    const tooMuch = (found: string): void =>
      reject(new AppError('TOO_MUCH', `${what} would take ${found}; make it smaller.`))
    const timer = setTimeout(() => {
      tooMuch(`longer than ${seconds} s`)
      child.kill('SIGKILL')
    }, seconds * 1000)
    let said = ''
    child.stderr?.on('data', (piece: Buffer) => (said = (said + piece.toString()).slice(-20_000)))
    child.on('message', (outcome: Outcome) => {
      if ('error' in outcome) reject(new Error(outcome.error))
      else resolve(outcome.answer)
    })
    child.on('error', (error) => reject(new Error(`${what} could not be begun: ${reasonOf(error)}`)))
    child.on('close', (code, signal) => {
      clearTimeout(timer)
      if (/heap out of memory|allocation failed/i.test(said)) tooMuch('more memory than it may')
      else reject(new Error(`${what} broke off (${signal ?? `code ${code}`}): ${said.slice(-500)}`))
    })
    child.send({ module, order })
  })
}
