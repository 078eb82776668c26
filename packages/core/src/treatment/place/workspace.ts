import { KernelMemory, type Address } from '../../kernels/kernels.js'
import { MIX_BLOCK } from '../../signal/soundPort.js'

/** Blocks that a place works on; nothing in them outlives its block. */
export interface Workspace {
  readonly hiss: Address
  /** What goes through a room, a quarter of the samples; half as many while they are made fewer. */
  readonly first: Address
  readonly second: Address
}

let made: { readonly memory: KernelMemory; readonly blocks: Workspace } | null = null

/** The workspace of this thread. */
export function workspace(): Workspace {
  if (!made) {
    const bytes = 4 * (MIX_BLOCK + 8)
    const memory = new KernelMemory(3 * bytes)
    const [hiss, first, second] = [memory.at, memory.at + bytes, memory.at + 2 * bytes]
    made = { memory, blocks: { hiss, first, second } }
  }
  return made.blocks
}
