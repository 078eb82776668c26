import { reasonOf } from '../errors.js'
import type { Outcome } from './apart.js'

/** Does one piece of work after the other, as the server asks; see apart.ts. Ends with the server. */
process.on('message', ({ module, order }: { module: string; order: unknown }) => {
  void work(module, order).then((outcome) => process.send?.(outcome))
})
process.on('disconnect', () => process.exit(0))

async function work(module: string, order: unknown): Promise<Outcome> {
  try {
    const ending = import.meta.url.endsWith('.ts') ? '.ts' : '.js'
    const { default: act } = (await import(new URL(`../${module}${ending}`, import.meta.url).href)) as {
      default: (order: unknown) => Promise<unknown>
    }
    process.send?.({ begun: true } satisfies Outcome)
    return { answer: await act(order) }
  } catch (error) {
    return { error: reasonOf(error) }
  }
}
