import { kernelFloats, KernelMemory, type Address } from '../../kernels/kernels.js'
import { MIX_BLOCK } from '../../signal/soundPort.js'
import type { Bus } from '../bus.js'

/** Bytes of a block, and of what a kernel may run over it. */
const BLOCK = 4 * (MIX_BLOCK + 8)

/** Blocks that a place works on; nothing in them outlives its block. */
export interface Workspace {
  readonly mono: Address
  readonly left: Address
  readonly right: Address
  readonly hiss: Address
  /** Twice a block each. */
  readonly first: Address
  readonly second: Address
}

let made: { readonly memory: KernelMemory; readonly blocks: Workspace } | null = null

/** The workspace of this thread. */
export function workspace(): Workspace {
  if (!made) {
    const memory = new KernelMemory(8 * BLOCK)
    const [mono, left, right, hiss, first, , second] = Array.from(
      { length: 8 },
      (_, block) => memory.at + block * BLOCK,
    ) as [number, number, number, number, number, number, number]
    made = { memory, blocks: { mono, left, right, hiss, first, second } }
  }
  return made.blocks
}

/** Copies what sounds of a bus into the workspace; whole blocks, since that is quicker than to stop. */
export function copyIn({ mono, left, right, hasMono, hasStereo }: Bus): void {
  const floats = kernelFloats()
  const work = workspace()
  if (hasMono) floats.set(mono, work.mono >> 2)
  if (!hasStereo) return
  floats.set(left, work.left >> 2)
  floats.set(right, work.right >> 2)
}

/** Copies it back. */
export function copyOut({ mono, left, right, hasMono, hasStereo }: Bus): void {
  const views = blockViews()
  if (hasMono) mono.set(views.mono)
  if (!hasStereo) return
  left.set(views.left)
  right.set(views.right)
}

let seen: { readonly of: Float32Array; readonly views: Views } | null = null

type Views = Readonly<Record<'mono' | 'left' | 'right', Float32Array>>

/** The blocks as numbers; made anew only when the memory has grown. */
function blockViews(): Views {
  const floats = kernelFloats()
  if (seen?.of !== floats) {
    const view = (at: Address): Float32Array => floats.subarray(at >> 2, (at >> 2) + MIX_BLOCK)
    const { mono, left, right } = workspace()
    seen = { of: floats, views: { mono: view(mono), left: view(left), right: view(right) } }
  }
  return seen.views
}
