// Spectra of 32 bit and their products. Real parts lie in one row, imaginary parts in another.

/**
 * The discrete Fourier transform of `n` complex numbers, a power of two from 8 on, as T. G. Stockham sorts it (AFIPS 1966; from
 * memory): each step reads one pair of rows and writes the other. With real and imaginary rows exchanged it is the inverse, times n.
 *
 * @param cos - Of the angles 2 pi p / n for p under n / 2; `sin` likewise. `twice` holds every second of them, each two times:
 *   first cosines, then, from n / 2 numbers on, sines
 * @returns 1 when what comes of it lies in the other rows, 0 when it lies where it was
 */
export function transform(
  re: usize,
  im: usize,
  otherRe: usize,
  otherIm: usize,
  n: i32,
  cos: usize,
  sin: usize,
  twice: usize,
): i32 {
  const half = (<usize>n) << 1
  // Neighbours are of different pairs in the first step: sums and differences are laid in turn.
  for (let at: usize = 0; at < half; at += 16) {
    const a = v128.load(re + at)
    const b = v128.load(im + at)
    const c = v128.load(re + half + at)
    const d = v128.load(im + half + at)
    const u = f32x4.sub(a, c)
    const v = f32x4.sub(b, d)
    const p = v128.load(cos + at)
    const q = v128.load(sin + at)
    const x = f32x4.add(f32x4.mul(u, p), f32x4.mul(v, q))
    const y = f32x4.sub(f32x4.mul(v, p), f32x4.mul(u, q))
    const s = f32x4.add(a, c)
    const t = f32x4.add(b, d)
    v128.store(otherRe + 2 * at, v128.shuffle<f32>(s, x, 0, 4, 1, 5))
    v128.store(otherRe + 2 * at, v128.shuffle<f32>(s, x, 2, 6, 3, 7), 16)
    v128.store(otherIm + 2 * at, v128.shuffle<f32>(t, y, 0, 4, 1, 5))
    v128.store(otherIm + 2 * at, v128.shuffle<f32>(t, y, 2, 6, 3, 7), 16)
  }
  // In the second two neighbours go together.
  for (let at: usize = 0; at < half; at += 16) {
    const a = v128.load(otherRe + at)
    const b = v128.load(otherIm + at)
    const c = v128.load(otherRe + half + at)
    const d = v128.load(otherIm + half + at)
    const u = f32x4.sub(a, c)
    const v = f32x4.sub(b, d)
    const p = v128.load(twice + at)
    const q = v128.load(twice + half + at)
    const x = f32x4.add(f32x4.mul(u, p), f32x4.mul(v, q))
    const y = f32x4.sub(f32x4.mul(v, p), f32x4.mul(u, q))
    const s = f32x4.add(a, c)
    const t = f32x4.add(b, d)
    v128.store(re + 2 * at, v128.shuffle<f32>(s, x, 0, 1, 4, 5))
    v128.store(re + 2 * at, v128.shuffle<f32>(s, x, 2, 3, 6, 7), 16)
    v128.store(im + 2 * at, v128.shuffle<f32>(t, y, 0, 1, 4, 5))
    v128.store(im + 2 * at, v128.shuffle<f32>(t, y, 2, 3, 6, 7), 16)
  }
  let fromRe = re
  let fromIm = im
  let toRe = otherRe
  let toIm = otherIm
  for (let together: usize = 16; together <= half; together <<= 1) {
    for (let at: usize = 0; at < half; at += together) {
      const p = v128.load_splat<f32>(cos + at)
      const q = v128.load_splat<f32>(sin + at)
      for (let k = at; k < at + together; k += 16) {
        const a = v128.load(fromRe + k)
        const b = v128.load(fromIm + k)
        const c = v128.load(fromRe + half + k)
        const d = v128.load(fromIm + half + k)
        const u = f32x4.sub(a, c)
        const v = f32x4.sub(b, d)
        v128.store(toRe + at + k, f32x4.add(a, c))
        v128.store(toIm + at + k, f32x4.add(b, d))
        v128.store(toRe + at + together + k, f32x4.add(f32x4.mul(u, p), f32x4.mul(v, q)))
        v128.store(toIm + at + together + k, f32x4.sub(f32x4.mul(v, p), f32x4.mul(u, q)))
      }
    }
    let swap = fromRe
    fromRe = toRe
    toRe = swap
    swap = fromIm
    fromIm = toIm
    toIm = swap
  }
  return fromRe == re ? 0 : 1
}

/**
 * Adds the products of one spectrum with two others to two more: rows of real and of imaginary parts, `bytes` each, a multiple of 16.
 *
 * @param sums - Left, then right
 */
export function multiply(sums: usize, x: usize, left: usize, right: usize, bytes: usize): void {
  for (let at: usize = 0; at < bytes; at += 16) {
    const re = v128.load(x + at)
    const im = v128.load(x + bytes + at)
    plusProduct(sums + at, re, im, v128.load(left + at), v128.load(left + bytes + at), bytes)
    plusProduct(sums + 2 * bytes + at, re, im, v128.load(right + at), v128.load(right + bytes + at), bytes)
  }
}

function plusProduct(at: usize, a: v128, b: v128, c: v128, d: v128, bytes: usize): void {
  v128.store(at, f32x4.add(v128.load(at), f32x4.sub(f32x4.mul(a, c), f32x4.mul(b, d))))
  const im = at + bytes
  v128.store(im, f32x4.add(v128.load(im), f32x4.add(f32x4.mul(a, d), f32x4.mul(b, c))))
}

/**
 * Packs the sums of {@link multiply}, which are the halves of two spectra of real sounds, into the whole one of left + i right over
 * `n`: of its inverse the real part is left, the imaginary part right.
 */
export function pack(sums: usize, bytes: usize, re: usize, im: usize, n: i32): void {
  const by = <f32>1 / <f32>n
  for (let k: i32 = 0; k <= n >> 1; k++) {
    const at = sums + ((<usize>k) << 2)
    const lr = load<f32>(at) * by
    const li = load<f32>(at + bytes) * by
    const rr = load<f32>(at + 2 * bytes) * by
    const ri = load<f32>(at + 3 * bytes) * by
    store<f32>(re + ((<usize>k) << 2), lr - ri)
    store<f32>(im + ((<usize>k) << 2), li + rr)
    if (k == 0 || k == n >> 1) continue
    store<f32>(re + ((<usize>(n - k)) << 2), lr + ri)
    store<f32>(im + ((<usize>(n - k)) << 2), rr - li)
  }
}
