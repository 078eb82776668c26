import { fileURLToPath } from 'node:url'
import { Piscina } from 'piscina'

const source = import.meta.url.endsWith('.ts')
const THREADS = 2
const IDLE_MS = 5000

/** Makes a pool of threads that run one module's default function; threads start when there is work and end when there is none. @param module - Path from the server's sources, without ending. */
export function makePool<Order, Answer>(module: string): Piscina<Order, Answer> {
  const filename = fileURLToPath(new URL(`../${module}${source ? '.ts' : '.js'}`, import.meta.url))
  return new Piscina({
    filename,
    minThreads: 0,
    maxThreads: THREADS,
    idleTimeout: IDLE_MS,
    execArgv: source ? ['--conditions=development', '--import', 'tsx'] : [],
  })
}
