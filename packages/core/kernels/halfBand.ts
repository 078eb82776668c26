// Half-band filters: beside the middle every second weight is 0, so that even and odd samples go apart.

/**
 * Takes every second of 2 `count` samples, filtered. It reads and writes up to three more.
 *
 * @param even - The even samples: `pairs` - 1 of before, then room for those that come. `odd` likewise, with 2 `pairs` - 1 of before
 * @param weights - Those beside the middle, from the nearest on; the middle is a half
 */
export function halve(
  from: usize,
  count: i32,
  into: usize,
  even: usize,
  odd: usize,
  weights: usize,
  pairs: i32,
): void {
  const bytes = (<usize>count) << 2
  const evens = even + ((<usize>(pairs - 1)) << 2)
  const odds = odd + ((<usize>(2 * pairs - 1)) << 2)
  for (let at: usize = 0; at < bytes; at += 16) {
    const a = v128.load(from + 2 * at)
    const b = v128.load(from + 2 * at, 16)
    v128.store(evens + at, v128.shuffle<f32>(a, b, 0, 2, 4, 6))
    v128.store(odds + at, v128.shuffle<f32>(a, b, 1, 3, 5, 7))
  }
  const middle = odd + ((<usize>pairs) << 2)
  for (let at: usize = 0; at < bytes; at += 16) {
    let sum = f32x4.mul(f32x4.splat(0.5), v128.load(even + at))
    for (let away: usize = 0; away < (<usize>pairs) << 2; away += 4) {
      const both = f32x4.add(v128.load(middle + at - away - 4), v128.load(middle + at + away))
      sum = f32x4.add(sum, f32x4.mul(v128.load_splat<f32>(weights + away), both))
    }
    v128.store(into + at, sum)
  }
  memory.copy(even, even + bytes, evens - even)
  memory.copy(odd, odd + bytes, odds - odd)
}

/**
 * Puts a sample between each two of `count`, filtered: 2 `count` are written, and up to six more; up to three more are read.
 *
 * @param line - 2 `pairs` - 1 samples of before, then room for those that come
 * @param weights - Twice those of {@link halve}
 */
export function double(from: usize, count: i32, into: usize, line: usize, weights: usize, pairs: i32): void {
  const bytes = (<usize>count) << 2
  const before = (<usize>(2 * pairs - 1)) << 2
  for (let at: usize = 0; at < bytes; at += 16) v128.store(line + before + at, v128.load(from + at))
  const middle = line + ((<usize>pairs) << 2)
  for (let at: usize = 0; at < bytes; at += 16) {
    let sum = f32x4.splat(0)
    for (let away: usize = 0; away < (<usize>pairs) << 2; away += 4) {
      const both = f32x4.add(v128.load(middle + at - away - 4), v128.load(middle + at + away))
      sum = f32x4.add(sum, f32x4.mul(v128.load_splat<f32>(weights + away), both))
    }
    const plain = v128.load(middle + at)
    v128.store(into + 2 * at, v128.shuffle<f32>(sum, plain, 0, 4, 1, 5))
    v128.store(into + 2 * at, v128.shuffle<f32>(sum, plain, 2, 6, 3, 7), 16)
  }
  memory.copy(line, line + bytes, before)
}
