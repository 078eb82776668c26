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
  multiply(sums: Address, x: Address, left: Address, right: Address, bytes: number): void
  pack(sums: Address, bytes: number, re: Address, im: Address, n: number): void
  transform(
    re: Address,
    im: Address,
    otherRe: Address,
    otherIm: Address,
    n: number,
    cos: Address,
    sin: Address,
    twice: Address,
  ): 0 | 1
  addSound(into: Address, from: Address, count: number, gain: number): void
  addMono(mono: Address, left: Address, right: Address, count: number, toLeft: number, toRight: number): void
  addStereo(
    fromLeft: Address,
    fromRight: Address,
    left: Address,
    right: Address,
    count: number,
    ll: number,
    lr: number,
    rl: number,
    rr: number,
  ): void
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
  waver(into: Address, count: number, from: Address, late: number, step: number): void
  halve(
    from: Address,
    count: number,
    into: Address,
    even: Address,
    odd: Address,
    weights: Address,
    pairs: number,
  ): void
  double(from: Address, count: number, into: Address, line: Address, weights: Address, pairs: number): void
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
    env: {
      abort: (): never => {
        throw new Error('a kernel has no memory left')
      },
    },
  }).exports as unknown as Kernels
  return loaded
}

function bytesOf(hex: string): Uint8Array<ArrayBuffer> {
  return Uint8Array.from({ length: hex.length / 2 }, (_, at) => parseInt(hex.slice(2 * at, 2 * at + 2), 16))
}

let floats = new Float32Array(0)

/** All memory of the kernels as numbers of 32 bit. It is another array once more memory was taken: ask for it at each block. */
export function kernelFloats(): Float32Array {
  return floats
}

const forgotten = /* @__PURE__ */ new FinalizationRegistry<Address>((at) => kernels().give(at))

/** A stretch of the kernels' memory, 0 at first, for as long as somebody holds it. */
export class KernelMemory {
  /** Where it begins. */
  readonly at: Address

  /** @param bytes - How long it is; behind it lies room for a kernel to run over by what it does at once */
  constructor(private readonly bytes: number) {
    const { take, memory } = kernels()
    this.at = take(bytes + SLACK)
    if (floats.buffer !== memory.buffer) floats = new Float32Array(memory.buffer)
    forgotten.register(this, this.at)
  }

  /** Makes it 0. */
  clear(): void {
    kernels().clear(this.at, this.bytes + SLACK)
  }

  /** Writes numbers of 32 bit. @param from - Bytes from its beginning */
  setFloats(values: ArrayLike<number>, from = 0): void {
    floats.set(values, (this.at + from) >> 2)
  }

  /** Writes numbers of 64 bit. */
  setDoubles(values: ArrayLike<number>, from = 0): void {
    new Float64Array(floats.buffer, this.at + from, values.length).set(values)
  }

  /** Writes integers of 32 bit. */
  setIntegers(values: ArrayLike<number>, from = 0): void {
    new Int32Array(floats.buffer, this.at + from, values.length).set(values)
  }
}

const SLACK = 32

/** Samples of 32 bit in the kernels' memory. */
export class KernelSamples {
  private readonly memory: KernelMemory
  private seen = new Float32Array(0)

  /** @param length - Samples */
  constructor(private readonly length: number) {
    this.memory = new KernelMemory(4 * length)
  }

  /** Where they begin. */
  get at(): Address {
    return this.memory.at
  }

  /** The samples themselves, until the next time that memory is taken: to be asked for at each block. */
  get samples(): Float32Array {
    if (this.seen.buffer !== floats.buffer)
      this.seen = floats.subarray(this.at >> 2, (this.at >> 2) + this.length)
    return this.seen
  }
}
