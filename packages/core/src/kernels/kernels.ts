import { KERNEL_BYTES } from './kernelBytes.js'

/** A place in the memory of the kernels, in bytes. */
export type Address = number

/** The innermost loops of the mixer; each is described where it is written, in packages/core/kernels. */
export interface Kernels {
  readonly memory: { readonly buffer: ArrayBuffer }
  take(bytes: number): Address
  give(at: Address): void
  clear(at: Address, bytes: number): void
  move(to: Address, from: Address, bytes: number): void
  fourSections(x: Address, count: number, sections: Address): void
  saturate(
    x: Address,
    count: number,
    drive: number,
    bias: number,
    middle: number,
    level: number,
    rest: number,
  ): void
  ramp(x: Address, count: number, from: number, step: number): void
  hiss(into: Address, count: number, at: number, noise: number, crackle: number): void
  add(into: Address, from: Address, count: number, gain: number): void
  heardAfter(x: Address, count: number, heard: number, fall: number, four: number): number
  halve(
    from: Address,
    count: number,
    into: Address,
    even: Address,
    odd: Address,
    weights: Address,
    pairs: number,
  ): void
  double(
    from: Address,
    count: number,
    into: Address,
    line: Address,
    weights: Address,
    pairs: number,
  ): void
  smear(x: Address, count: number, held: Address, length: number, at: number, by: number): void
  goRound(
    from: Address,
    left: Address,
    right: Address,
    count: number,
    ring: Address,
    plane: number,
    mask: number,
    now: number,
    setup: Address,
    into: number,
    level: number,
  ): void
  remember(from: Address, count: number, ring: Address, mask: number, now: number): void
  addEchoes(
    into: Address,
    count: number,
    ring: Address,
    mask: number,
    now: number,
    echoes: Address,
    many: number,
  ): void
}

let loaded: Kernels | null = null

/** The kernels of this thread; compiled at the first call, within a few milliseconds. */
export function kernels(): Kernels {
  loaded ??= new WebAssembly.Instance(new WebAssembly.Module(bytesOf(KERNEL_BYTES)), {
    env: { abort: (): never => { throw new Error('a kernel has no memory left') } },
  }).exports as Kernels
  return loaded
}

function bytesOf(hex: string): Uint8Array {
  return Uint8Array.from({ length: hex.length / 2 }, (_, at) => parseInt(hex.slice(2 * at, 2 * at + 2), 16))
}

let floats = new Float32Array(0)
let whole = floats.buffer

/** All memory of the kernels as numbers of 32 bit. It is another one once more memory was taken: ask for it at each block. */
export function kernelFloats(): Float32Array {
  const { buffer } = kernels().memory
  if (buffer !== whole) {
    whole = buffer
    floats = new Float32Array(buffer)
  }
  return floats
}

const forgotten = new FinalizationRegistry<Address>((at) => kernels().give(at))

/** A stretch of the kernels' memory, 0 at first, for as long as somebody holds it. */
export class KernelMemory {
  /** Where it begins. */
  readonly at: Address

  /** @param bytes - How long it is; rounded up so that a kernel may run over its end by what it does at once */
  constructor(private readonly bytes: number) {
    this.at = kernels().take(bytes + SLACK)
    forgotten.register(this, this.at)
  }

  /** Makes it 0. */
  clear(): void {
    kernels().clear(this.at, this.bytes + SLACK)
  }

  /** Writes numbers of 32 bit. @param from - Bytes from its beginning */
  setFloats(values: ArrayLike<number>, from = 0): void {
    new Float32Array(kernels().memory.buffer, this.at + from, values.length).set(values)
  }

  /** Writes numbers of 64 bit. */
  setDoubles(values: ArrayLike<number>, from = 0): void {
    new Float64Array(kernels().memory.buffer, this.at + from, values.length).set(values)
  }

  /** Writes integers of 32 bit. */
  setIntegers(values: ArrayLike<number>, from = 0): void {
    new Int32Array(kernels().memory.buffer, this.at + from, values.length).set(values)
  }
}

const SLACK = 32
