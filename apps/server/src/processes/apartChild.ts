import { reasonOf } from '../errors.js'
import type { Outcome } from './apart.js'

/** Does the one piece of work that this process was started for; see apart.ts. */
process.once('message', ({ module, order }: { module: string; order: unknown }) => {
  void work(module, order).then((outcome) => process.send?.(outcome, () => process.exit(0)))
})

async function work(module: string, order: unknown): Promise<Outcome> {
  try {
    const ending = import.meta.url.endsWith('.ts') ? '.ts' : '.js'
    const { default: act } = (await import(new URL(`../${module}${ending}`, import.meta.url).href)) as {
      default: (order: unknown) => Promise<unknown>
    }
    return { answer: await act(order) }
  } catch (error) {
    return { error: reasonOf(error) }
  }
}
